export { SessionGate } from "./SessionGate";
export { SignOutButton } from "./SignOutButton";

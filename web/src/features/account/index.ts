export { AccountPage } from "./AccountPage";

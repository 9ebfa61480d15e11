export { CheckPage } from "./CheckPage";
export { RepeatPage } from "./RepeatPage";

export { PrintPage } from "./PrintPage";

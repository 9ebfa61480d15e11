export { AlongPage } from "./AlongPage";

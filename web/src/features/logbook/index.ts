export { LogbookPage } from "./LogbookPage";

export { PhotoCheckPage } from "./PhotoCheckPage";
export { PhotoChecksPage } from "./PhotoChecksPage";

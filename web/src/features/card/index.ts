export { useNoteCard } from "./api";
export { CardPage } from "./CardPage";
export { CardSection } from "./CardSection";
export { CropOnPicture } from "./CropOnPicture";

export { BenchPage } from "./BenchPage";
export { pieceQueries } from "./api";

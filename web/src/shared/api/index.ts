export { api, Problem } from "./client";
export { watchKeeping } from "./keeping";
export { pictureOf, pieceQueries } from "./pieces";
export { queryClient } from "./queryClient";
export { runQueries, useStartRun, type RunFilter } from "./runs";
export { LIMITS } from "./limits";
export { sessionQuery } from "./session";
export { drawerQueries, nameOf, tradeQuery, type Page } from "./trade";
export type {
  Batch,
  ChartLine,
  ChartSheet,
  Drawer,
  DrawerDetail,
  Form,
  Glow,
  GoTo,
  ImportPreview,
  Lamp,
  LightCheck,
  Likeness,
  Look,
  Medium,
  Missing,
  PaletteColour,
  Pass,
  Piece,
  Plan,
  Ramp,
  ReaderRead,
  RecipeLine,
  Region,
  RegionChanges,
  Request,
  Restore,
  Role,
  Run,
  RunChoice,
  RunEvent,
  RunLine,
  RunReadout,
  RunStep,
  School,
  SchoolStep,
  Session,
  ShelfPiece,
  Slip,
  Substitute,
  Swatch,
  SwatchRecord,
  Told,
  Trade,
  ValueWarning,
  Wish,
} from "./types";
export { stintsOf, type Stint } from "./stints";
export { matesOf, thingsOf, type Thing } from "./things";

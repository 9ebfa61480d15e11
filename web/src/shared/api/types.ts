import type { components } from "./schema";

type Schemas = components["schemas"];
export type Piece = Schemas["Piece"];
export type PieceCard = Schemas["PieceCard"];
export type Region = Schemas["Region"];
export type Ramp = Schemas["Ramp"];
export type Swatch = Schemas["Swatch"];
export type Plan = Schemas["Plan"];
export type Pass = Schemas["Pass"];
export type Drawer = Schemas["Drawer"];
export type DrawerDetail = Schemas["DrawerDetail"];
export type LightCheck = Schemas["LightCheck"];
export type Look = Schemas["LookOut"];
export type RecipeLine = Schemas["RecipeLine"];
export type Trade = Schemas["Trade"];
export type Session = Schemas["Session"];
export type Medium = Piece["medium"];
export type Form = Region["form"];

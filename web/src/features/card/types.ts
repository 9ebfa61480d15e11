export type { CardSpec, LaidCard, Length, NamedSize, Stock } from "@/shared/api";
export type { Unit } from "@/shared/ui";

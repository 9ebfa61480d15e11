import type { Length } from "@/shared/api";
import { useUnit } from "./unit";
import type { Unit } from "./words";

/** A length in words: "4 1/4 in", "≈ 3.175 cm". */
export function sizeWords(length: Length, unit: Unit): string {
  return unit === "in" ? `${length.inches} in` : `${length.cm} cm`;
}

/** A length with its fraction set as one, in the unit that was chosen. */
export function Size({ of, bare = false }: { of: Length; bare?: boolean }) {
  const { unit } = useUnit();
  if (unit === "cm") return <>{bare ? of.cm : sizeWords(of, unit)}</>;
  const fraction = /^(.*?) ?(\d+)\/(\d+)$/.exec(of.inches);
  return (
    <span className="whitespace-nowrap">
      <span className="sr-only">{sizeWords(of, unit)}</span>
      <span aria-hidden>
        {fraction ? (
          <>
            {fraction[1]}
            <sup className="ml-px text-[0.66em] leading-none">{fraction[2]}</sup>⁄
            <sub className="bottom-0 text-[0.66em] leading-none">{fraction[3]}</sub>
          </>
        ) : (
          of.inches
        )}
        {!bare && " in"}
      </span>
    </span>
  );
}

/** Several lengths one after the other. */
export function Sizes({ of }: { of: Length[] }) {
  return of.map((one, place) => (
    <span key={one.exact}>
      {place > 0 && " and "}
      <Size of={one} />
    </span>
  ));
}

import { swatchStyle } from "@/shared/ui";

type Props = { colours: [string, string]; words: [string, string]; className?: string };

/** Two colours beside each other, as something was or should be and as it is; white where there is none. */
export function ColourPair({ colours, words, className = "size-6" }: Props) {
  return colours.map((hex, place) => (
    <span
      key={place}
      title={words[place]}
      className={`shrink-0 border border-line bg-(--swatch) ${className}`}
      style={swatchStyle(hex || "#ffffff")}
    />
  ));
}

import type { Medium } from "@/shared/api";

const CAUTIONS: Record<Medium, string> = {
  marker:
    "Alcohol markers and blending fluid give off flammable vapour: air the room, and no heat tool near wet alcohol ink. Follow the makers’ labels and safety data sheets.",
  watercolour:
    "Never point a brush with the lips: some pigments are harmful. A heat tool reaches several hundred degrees; wait until standing water is gone, keep fingers clear, and follow its label.",
  soluble: "Never point a brush with the lips: some pigments are harmful. A heat tool burns; follow its label.",
  pencil: "Brush pencil dust off, do not blow it. Blades of sharpeners and knives: away from fingers.",
  inkpad:
    "A heat tool reaches several hundred degrees: not near alcohol ink or solvents, nothing on the hot nozzle. Follow the labels.",
};

/** The usual cautions of the media, short; labels and local rules come first. */
export function Cautions({ media }: { media: readonly Medium[] }) {
  return media.map((medium, place) => (
    <p key={medium} className="mb-3 border-l-4 border-ink pl-2 text-[13px]">
      {place === 0 && <strong>Take care. </strong>}
      {CAUTIONS[medium]}
    </p>
  ));
}

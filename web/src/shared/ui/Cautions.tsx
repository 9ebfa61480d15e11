type Known = { code: string; caution: string };

/** The usual cautions of the media that are laid, short; labels and local rules come first. */
export function Cautions({ media, known }: { media: readonly string[]; known: readonly Known[] }) {
  const said = media.flatMap((code) => known.find((one) => one.code === code && one.caution) ?? []);
  return said.map(({ code, caution }, place) => (
    <p key={code} className="mb-3 border-l-4 border-ink pl-2 text-[13px]">
      {place === 0 && <strong>Take care. </strong>}
      {caution}
    </p>
  ));
}

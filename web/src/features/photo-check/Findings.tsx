import type { PhotoCheck, Fault } from "@/shared/api";
import { Button, counted } from "@/shared/ui";
import { useFine } from "./api";
import { ColourPair } from "./ColourPair";

type Props = { check: PhotoCheck; chosen: number | null; onChoose: (place: number | null) => void };

/** What is not as planned, largest first; what is within a hand's spread is folded away. */
export function Findings(props: Props) {
  const told = props.check.faults.filter((fault) => !fault.slight);
  const slight = props.check.faults.filter((fault) => fault.slight);
  return (
    <>
      {told.length === 0 ? (
        <p>Nothing is off by more than a hand varies. What could be seen is as it should be.</p>
      ) : (
        <Listed {...props} name="Findings" faults={told} />
      )}
      {slight.length > 0 && (
        <details className="mt-2">
          <summary className="cursor-pointer">
            {counted(slight.length, "small difference")} within 3, as much as a hand varies
          </summary>
          <Listed {...props} name="Small differences" faults={slight} />
        </details>
      )}
    </>
  );
}

/** The chosen one is lit on the picture and says what can be done. */
function Listed({ check, chosen, onChoose, name, faults }: Props & { name: string; faults: Fault[] }) {
  const fine = useFine(check.id);
  return (
    <ol className="divide-y divide-line" aria-label={name}>
      {faults.map((fault) => (
        <li key={fault.place} className={fault.fine ? "text-soft" : ""}>
          <button
            type="button"
            aria-expanded={chosen === fault.place}
            onClick={() => onChoose(chosen === fault.place ? null : fault.place)}
            className="flex w-full items-center gap-3 py-2 text-left"
          >
            <Chips fault={fault} />
            <span className="grow">
              {fault.sentence}
              {fault.fine && " Seen and fine."}
            </span>
            <span className="shrink-0 tabular-nums" title="CIEDE2000">
              {fault.size.toFixed(1)}
              {fault.kind === "over" && " mm"}
            </span>
          </button>
          {chosen === fault.place && (
            <div className="mb-3 ml-13 space-y-2 text-[14px]">
              <p>{fault.next_time}</p>
              {fault.rescues.map((way) => (
                <p key={way.name}>
                  <strong>{way.name}.</strong> {way.how} {way.caution}
                </p>
              ))}
              {check.against === null && (
                <Button busy={fine.isPending} onClick={() => fine.mutate({ place: fault.place, fine: !fault.fine })}>
                  {fault.fine ? "It is not fine after all" : "Seen and fine"}
                </Button>
              )}
            </div>
          )}
        </li>
      ))}
    </ol>
  );
}

function Chips({ fault }: { fault: Fault }) {
  return (
    <span className="flex shrink-0" aria-hidden>
      <ColourPair
        colours={[fault.plan_hex, fault.seen_hex]}
        words={["As planned", "As it came out"]}
        className="h-7 w-5"
      />
    </span>
  );
}

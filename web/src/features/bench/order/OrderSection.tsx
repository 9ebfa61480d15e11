import type { Plan, Role, Trade } from "@/shared/api";
import { Button, Cautions, Choice, counted, QueueLength, minutes, Tick, timesFrom } from "@/shared/ui";
import { useDescribeOrder, useKeepNewerOrder } from "../api";
import { AlongBox } from "./AlongBox";
import { usePiece } from "../bench";
import { CopiesBox } from "./CopiesBox";
import { Schools } from "./Schools";
import { StintList } from "./StintList";

type Props = { trade: Trade; plan: Plan | undefined; error: Error | null };

export function OrderSection({ trade, plan, error }: Props) {
  const piece = usePiece();
  const describe = useDescribeOrder(piece.id);
  const { masked, taped, wish } = piece.order;
  const grounds = piece.regions.list.filter((region) => region.fade).length;
  const marked = (role: Role) => piece.regions.list.some((region) => region.role === role);
  return (
    <div>
      <AlongBox ready={(plan?.passes.length ?? 0) > 0} />
      <Schools trade={trade} />
      <div className="mb-3">
        <Choice
          label="Go for"
          value={wish}
          options={trade.order_wishes}
          onKeep={(next) => describe.mutateAsync({ wish: next })}
        >
          {(wish === "focal" || wish === "background") && !marked(wish) && <MarkFirst role={wish} />}
        </Choice>
      </div>
      <Tick className="mb-3" checked={masked} onKeep={(on) => describe.mutateAsync({ masked: on })}>
        Mask the figure for the background
        {masked && !marked("background") && <MarkFirst role="background" />}
        {masked && marked("background") && (
          <a
            className="ml-2 text-[13px] underline underline-offset-4"
            href={`/api/v1/pieces/${piece.id}/mask.svg/`}
            download
          >
            Its line to cut, SVG in mm
          </a>
        )}
      </Tick>
      {grounds > 1 && (
        <Tick className="mb-3" checked={taped ?? false} onKeep={(on) => describe.mutateAsync({ taped: on })}>
          Tape along the lines between the grounds
        </Tick>
      )}
      <Cautions media={piece.colours.media} known={trade.media} />
      {error && <p role="alert">{error.message}</p>}
      {!plan && !error && (
        <p role="status">
          Working out the order …
          <QueueLength />
        </p>
      )}
      {plan && plan.passes.length === 0 && (
        <p className="rounded bg-faint p-3">
          Give at least one region its colours; the order of passes follows by itself.
        </p>
      )}
      {plan && plan.passes.length > 0 && (
        <>
          <table className="mb-3 w-full">
            <thead>
              <tr className="text-left text-[13px] text-soft">
                <th className="font-normal" />
                <th className="font-normal">This order</th>
                <th className="font-normal">Region by region</th>
              </tr>
            </thead>
            <tbody>
              <Row name="Pen changes" one={String(plan.pen_changes)} other={String(plan.by_region_pen_changes)} />
              <Row name="Time, about" one={minutes(plan.duration_s)} other={minutes(plan.by_region_duration_s)} />
            </tbody>
          </table>
          <KeptOrder plan={plan} />
          <p className="mb-3 text-[13px] text-soft">
            Timed {timesFrom(plan)}. {howGood(plan)}
            {plan.uncoloured > 0 &&
              ` ${counted(plan.uncoloured, "region")} without colours ${plan.uncoloured === 1 ? "is" : "are"} not in it yet.`}
          </p>
          <CopiesBox plan={plan} />
          {plan.before.length > 0 && <Before lines={plan.before} />}
          <StintList plan={plan} />
        </>
      )}
    </div>
  );
}

/** Which version holds the order, and the one that would be worked out now. */
function KeptOrder({ plan }: { plan: Plan }) {
  const piece = usePiece();
  const keep = useKeepNewerOrder(piece.id);
  if (plan.version === null) return null;
  return (
    <div className="mb-3 rounded bg-faint p-3 text-[13px]">
      <p>The order as kept in version {plan.version}.</p>
      {plan.worked_out && (
        <p className="mt-1 flex flex-wrap items-center justify-between gap-2">
          <span>
            Worked out again with the times noted since: about {minutes(plan.worked_out.duration_s)},{" "}
            {counted(plan.worked_out.pen_changes, "pen change")}.
          </span>
          <Button busy={keep.isPending} onClick={() => keep.mutate()}>
            Keep that order as the next version
          </Button>
        </p>
      )}
    </div>
  );
}

/** How far the order may be from the best there is. */
function howGood({ duration_s, bound_s }: Plan): string {
  const over = Math.ceil(1000 * (duration_s / bound_s - 1)) / 10;
  return over <= 0.1
    ? "No order is shorter."
    : `No order can take less than ${minutes(bound_s)}: this one is at most ${over} % longer than the best.`;
}

function Before({ lines }: { lines: string[] }) {
  return (
    <div className="mb-3 rounded bg-faint p-2">
      {lines.map((line, index) => (
        <p key={line}>
          {index === 0 && <strong>Before the first pass: </strong>}
          {line}
        </p>
      ))}
    </div>
  );
}

function Row({ name, one, other }: { name: string; one: string; other: string }) {
  return (
    <tr className="border-t border-line">
      <th scope="row" className="py-1 text-left font-normal">
        {name}
      </th>
      <td className="figure">{one}</td>
      <td>{other}</td>
    </tr>
  );
}

function MarkFirst({ role }: { role: Role }) {
  return <span className="block text-[13px] text-soft">Mark regions as {role} under Regions first.</span>;
}

import { useQuery } from "@tanstack/react-query";
import { useState } from "react";

import type { Plan, Role, School, Trade } from "@/shared/api";
import { Button, Cautions, Choice, counted, minutes, Tick, timesFrom, useDraft } from "@/shared/ui";
import { schoolsQuery, useChooseSchool, useDropSchool, useDescribeOrder } from "./api";
import { AlongBox } from "./AlongBox";
import { usePiece } from "./bench";
import { CopiesBox } from "./CopiesBox";
import { SchoolEditor } from "./SchoolEditor";
import { StintList } from "./StintList";

type Props = { trade: Trade; plan: Plan | undefined; error: Error | null };

export function OrderSection({ trade, plan, error }: Props) {
  const piece = usePiece();
  const chooseSchool = useChooseSchool(piece.id);
  const schools = useQuery(schoolsQuery).data ?? [];
  const drop = useDropSchool();
  const describe = useDescribeOrder(piece.id);
  // The mark follows the hand at once; the server's word follows it.
  const [chosen, setChosen] = useDraft(piece.order.school as string);
  const { masked, wish } = piece.order;
  const marked = (role: Role) => piece.regions.list.some((region) => region.role === role);
  const [writing, setWriting] = useState<School | "new" | null>(null);
  const choose = (school: string) => {
    setChosen(school);
    chooseSchool.mutate(school, { onError: () => setChosen(piece.order.school) });
  };
  const current = schools.find((school) => school.code === chosen);
  return (
    <div>
      <AlongBox ready={(plan?.passes.length ?? 0) > 0} />
      <fieldset className="mb-1">
        <legend className="mb-1">School of shade order</legend>
        {schools
          .filter((school) => school.medium === piece.colours.medium)
          .map((school) => (
            <label key={school.code} title={school.summary} className="flex items-start gap-2 py-1">
              <input
                type="radio"
                name="school"
                className="mt-1 accent-ink"
                checked={chosen === school.code}
                onChange={() => choose(school.code)}
              />
              <span>
                <span className={chosen === school.code ? "font-bold" : ""}>{school.name}</span>
                {school.own && " (yours)"}
                {chosen === school.code && <span className="block text-[13px] text-soft">{school.summary}</span>}
              </span>
            </label>
          ))}
      </fieldset>
      <p className="mb-3 flex flex-wrap gap-x-4 text-[13px]">
        <Button kind="quiet" onClick={() => setWriting(current ?? "new")}>
          {current?.own ? "Edit this school" : "Write your own from this one"}
        </Button>
        {current?.own && (
          <Button kind="quiet" onClick={() => current.id !== null && drop.mutate(current.id)}>
            Forget this school
          </Button>
        )}
      </p>
      <SchoolEditor
        words={trade.school_words}
        open={writing !== null}
        onClose={() => setWriting(null)}
        medium={piece.colours.medium}
        school={writing === "new" ? null : writing}
        onKept={(school) => {
          setWriting(null);
          if (school.medium === piece.colours.medium) choose(school.code);
        }}
      />
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
      </Tick>
      <Cautions medium={piece.colours.medium} />
      {error && <p role="alert">{error.message}</p>}
      {!plan && !error && <p role="status">Working out the order …</p>}
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
          <p className="mb-3 text-[13px] text-soft">
            Timed {timesFrom(plan)}. No order can take less than {minutes(plan.bound_s)}.
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

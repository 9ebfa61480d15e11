import { useQuery } from "@tanstack/react-query";
import { useState } from "react";

import { type Medium, type School, type Trade, nameOf } from "@/shared/api";
import { Button, useDraft } from "@/shared/ui";
import { schoolsQuery, useChooseSchool, useDropSchool } from "../api";
import { usePiece } from "../bench";
import { SchoolEditor } from "./SchoolEditor";

/** How each medium of the picture is laid. */
export function Schools({ trade }: { trade: Trade }) {
  const { order } = usePiece();
  return order.schools.map((one) => (
    <MediumSchool key={one.medium} trade={trade} medium={one.medium} code={one.code} named={order.schools.length > 1} />
  ));
}

type Props = { trade: Trade; medium: Medium; code: string; named: boolean };

function MediumSchool({ trade, medium, code, named }: Props) {
  const piece = usePiece();
  const chooseSchool = useChooseSchool(piece.id);
  const schools = useQuery(schoolsQuery).data ?? [];
  const drop = useDropSchool();
  // The mark follows the hand at once; the server's word follows it.
  const [chosen, setChosen] = useDraft(code);
  const [writing, setWriting] = useState<School | "new" | null>(null);
  const choose = (school: string) => {
    setChosen(school);
    chooseSchool.mutate(school, { onError: () => setChosen(code) });
  };
  const current = schools.find((school) => school.code === chosen);
  return (
    <>
      <fieldset className="mb-1">
        <legend className="mb-1">
          School of shade order{named && ` for ${nameOf(trade.media, medium).toLowerCase()}`}
        </legend>
        {schools
          .filter((school) => school.medium === medium)
          .map((school) => (
            <label key={school.code} title={school.summary} className="flex items-start gap-2 py-1">
              <input
                type="radio"
                name={`school ${medium}`}
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
        medium={medium}
        school={writing === "new" ? null : writing}
        onKept={(school) => {
          setWriting(null);
          if (school.medium === medium) choose(school.code);
        }}
      />
    </>
  );
}

import { useState } from "react";

import { LIMITS, type Medium, type School, type SchoolStep, type Trade } from "@/shared/api";
import { Ask, Button, FileButton, Refusal, tell } from "@/shared/ui";
import { useKeepSchool } from "../api";

/** How a step follows the one before, in words; the first one starts. */
const JOIN: Record<string, string> = { wet: "while it is wet", dry: "on dry", any: "at any time" };
const FIRST: SchoolStep = { which: "palest", where: "all over", join: "start", how: "lay an even coat" };

type Props = {
  words: Trade["school_words"];
  medium: Medium;
  school: School | null;
  onClose: () => void;
  onKept: (school: School) => void;
};

/** Writing a school of one's own: steps in the order they are laid. It can be saved as a file and read from one. */
export function SchoolEditor({ open, ...rest }: Props & { open: boolean }) {
  const { school, onClose } = rest;
  return (
    <Ask open={open} onClose={onClose} title={school?.own ? `Edit ${school.name}` : "Write a school of your own"} wide>
      <Editor key={school?.code ?? "new"} {...rest} />
    </Ask>
  );
}

function Editor({ words, medium, school, onClose, onKept }: Props) {
  const keep = useKeepSchool();
  const [name, setName] = useState(school ? (school.own ? school.name : `${school.name}, my way`) : "");
  const [summary, setSummary] = useState(school?.summary ?? "");
  const [steps, setSteps] = useState<SchoolStep[]>(school?.steps ?? [FIRST]);
  const body = { name: name.trim(), medium: school?.medium ?? medium, summary: summary.trim(), steps };
  const change = (place: number, step: Partial<SchoolStep>) =>
    setSteps(steps.map((old, index) => (index === place ? { ...old, ...step } : old)));

  function move(place: number, by: number) {
    const next = [...steps];
    const [step] = next.splice(place, 1);
    if (step) next.splice(place + by, 0, step);
    setSteps(
      next.map((one, index) => ({ ...one, join: index === 0 ? "start" : one.join === "start" ? "wet" : one.join })),
    );
  }

  function save() {
    const file = URL.createObjectURL(new Blob([JSON.stringify(body, null, 1)], { type: "application/json" }));
    const link = Object.assign(document.createElement("a"), {
      href: file,
      download: `${
        name
          .trim()
          .toLowerCase()
          .replace(/[^a-z0-9]+/g, "-") || "school"
      }.json`,
    });
    link.click();
    URL.revokeObjectURL(file);
  }

  async function read(file: File) {
    let written: unknown;
    try {
      written = JSON.parse(await file.text());
    } catch {
      return tell("This file is no JSON.", "problem");
    }
    keep.mutate({ id: null, school: written }, { onSuccess: onKept });
  }

  return (
    <div className="flex flex-col gap-3">
      <label className="block">
        Name
        <input
          className="field mt-1"
          value={name}
          maxLength={LIMITS.school.name}
          autoFocus
          onChange={(event) => setName(event.target.value)}
        />
      </label>
      <label className="block">
        In a sentence
        <input
          className="field mt-1"
          value={summary}
          maxLength={LIMITS.school.summary}
          onChange={(event) => setSummary(event.target.value)}
        />
      </label>
      <ol aria-label="Steps" className="flex flex-col gap-2">
        {steps.map((step, place) => (
          <li
            key={place}
            className="grid grid-cols-[1.2rem_10rem_7rem_9rem_1fr] items-center gap-2 rounded bg-faint p-2 text-[13px]"
          >
            <span className="font-display font-bold">{place + 1}</span>
            <select
              aria-label={`Shades of step ${place + 1}`}
              className="field"
              value={step.which}
              onChange={(event) => change(place, { which: event.target.value })}
            >
              {words.which.map((one) => (
                <option key={one}>{one}</option>
              ))}
            </select>
            <select
              aria-label={`Place of step ${place + 1}`}
              className="field"
              value={step.where}
              onChange={(event) => change(place, { where: event.target.value })}
            >
              {words.where.map((one) => (
                <option key={one}>{one}</option>
              ))}
            </select>
            {place === 0 ? (
              <span>to begin with</span>
            ) : (
              <select
                aria-label={`When step ${place + 1} follows`}
                className="field"
                value={step.join}
                onChange={(event) => change(place, { join: event.target.value })}
              >
                {words.join
                  .filter((join) => join in JOIN)
                  .map((join) => (
                    <option key={join} value={join}>
                      {JOIN[join]}
                    </option>
                  ))}
              </select>
            )}
            <span className="flex justify-end gap-2">
              <Button
                kind="quiet"
                disabled={place === 0}
                aria-label={`Move step ${place + 1} up`}
                onClick={() => move(place, -1)}
              >
                Up
              </Button>
              <Button
                kind="quiet"
                disabled={steps.length === 1}
                aria-label={`Remove step ${place + 1}`}
                onClick={() =>
                  setSteps(
                    steps
                      .filter((_step, index) => index !== place)
                      .map((one, index) => (index === 0 ? { ...one, join: "start" } : one)),
                  )
                }
              >
                Remove
              </Button>
            </span>
            <input
              aria-label={`What the hand does in step ${place + 1}`}
              className="field col-start-2 col-end-6"
              value={step.how}
              maxLength={LIMITS.school.how}
              onChange={(event) => change(place, { how: event.target.value })}
            />
          </li>
        ))}
      </ol>
      <div>
        <Button
          disabled={steps.length >= LIMITS.school.steps}
          onClick={() =>
            setSteps([...steps, { which: "darkest", where: "own zone", join: "wet", how: "lay the shade" }])
          }
        >
          Add a step
        </Button>
      </div>
      <Refusal error={keep.error} />
      <div className="flex flex-wrap items-center justify-end gap-3">
        <FileButton name="School file" accept=".json,application/json" onFile={(file) => void read(file)}>
          Read from a file
        </FileButton>
        <Button kind="quiet" onClick={save}>
          Save as a file
        </Button>
        <span className="grow" />
        <Button onClick={onClose}>Cancel</Button>
        <Button
          kind="main"
          busy={keep.isPending}
          onClick={() => keep.mutate({ id: school?.own ? school.id : null, school: body }, { onSuccess: onKept })}
        >
          Keep this school
        </Button>
      </div>
    </div>
  );
}

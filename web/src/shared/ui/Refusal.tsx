import { Problem } from "@/shared/api";

/** What was wrong with what somebody sent: the words for the field at fault, else the sentence. */
export function Refusal({ error }: { error: Error | string | null }) {
  if (!error) return null;
  return (
    <p role="alert" className="rounded bg-ink px-3 py-2 text-sheet">
      {typeof error === "string" ? error : wordsOf(error)}
    </p>
  );
}

function wordsOf(error: Error): string {
  return (error instanceof Problem && Object.values(error.fields)[0]) || error.message;
}

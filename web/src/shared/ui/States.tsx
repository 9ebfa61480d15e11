import { Button } from "./Button";
import { QueueLength } from "./QueueLength";

/** Something is under way; shown only where it takes long enough to be seen. */
export function Waiting({ what }: { what: string }) {
  return (
    <div role="status" className="grid grow place-items-center p-10 text-[17px]">
      <p className="animate-[pulse_1.6s_ease-in-out_infinite] motion-reduce:animate-none">{what} …</p>
      <p>
        <QueueLength />
      </p>
    </div>
  );
}

export function Failed({ error, onRetry }: { error: Error; onRetry?: () => void }) {
  return (
    <div role="alert" className="m-auto max-w-lg rounded bg-sheet p-6 shadow-lg">
      <h2 className="mb-2 text-lg">This did not work</h2>
      <p className="mb-4">{error.message}</p>
      {onRetry && (
        <Button kind="main" onClick={onRetry}>
          Try again
        </Button>
      )}
    </div>
  );
}

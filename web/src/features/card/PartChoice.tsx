import { Choice } from "@/shared/ui";

type Props = {
  label: string;
  value: string;
  options: readonly { code: string; name: string }[];
  onKeep: (value: string) => Promise<unknown> | void;
};

/** A choice among the fields of a card's part, labelled as they are. */
export function PartChoice(props: Props) {
  return (
    <div className="[&>label]:text-[13px] [&>label]:text-soft [&_select]:text-[15px] [&_select]:text-ink">
      <Choice below {...props} />
    </div>
  );
}

import { Button } from "@/shared/ui";
import { useCard } from "./card";
import { setAt } from "./spec";

/** Puts the middle of the figure into the middle of the panel. */
export function CentreButtons() {
  const { laid, change } = useCard();
  const centre = (by: "figure" | "weight") => {
    const { x, y } = laid.crops[by];
    void change((spec) => setAt(setAt(spec, "panel.crop_x", x.exact), "panel.crop_y", y.exact)).catch(() => undefined);
  };
  return (
    <>
      <Button kind="quiet" onClick={() => centre("figure")}>
        Centre on the figure
      </Button>
      <Button
        kind="quiet"
        title="Where the figure would balance; dark places pull more"
        onClick={() => centre("weight")}
      >
        Centre by weight
      </Button>
    </>
  );
}

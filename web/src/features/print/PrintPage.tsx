import { useSearchParams } from "react-router";

import { InFull } from "./InFull";
import { OnePage } from "./OnePage";

/** The recipe to print: on one page, or in full. */
export function PrintPage() {
  const [address] = useSearchParams();
  return address.has("full") ? <InFull /> : <OnePage />;
}

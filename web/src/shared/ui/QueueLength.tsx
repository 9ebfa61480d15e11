import { useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";

import { api, type WorkQueue } from "@/shared/api";

import { counted } from "./words";

const LONG_MS = 3_000;
const ASK_MS = 2_000;

/** Beside what takes long: once it has, how much work of everybody is in line. */
export function QueueLength() {
  const [long, setLong] = useState(false);
  useEffect(() => {
    const timer = setTimeout(() => setLong(true), LONG_MS);
    return () => clearTimeout(timer);
  }, []);
  const { data } = useQuery({
    queryKey: ["queue"],
    queryFn: ({ signal }) => api.get<WorkQueue>("/queue/", { signal }),
    enabled: long,
    refetchInterval: ASK_MS,
    gcTime: 0,
  });
  const others = (data?.in_line ?? 0) - 1;
  // Two at a time are done at once; nobody waits for those.
  if (!data || others < data.at_once) return null;
  return <> It is busy: {counted(others, "other task is", "other tasks are")} in line. Yours goes on by itself.</>;
}

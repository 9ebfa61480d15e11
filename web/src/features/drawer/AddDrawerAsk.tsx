import { useQuery } from "@tanstack/react-query";
import { useState, type FormEvent } from "react";
import { useNavigate } from "react-router";

import { LIMITS, tradeQuery, type Medium } from "@/shared/api";
import { Ask, Button } from "@/shared/ui";
import { useAddDrawer } from "./api";

export function AddDrawerAsk({ open, onClose }: { open: boolean; onClose: () => void }) {
  const media = useQuery(tradeQuery).data?.media ?? [];
  const [name, setName] = useState("");
  const [medium, setMedium] = useState<Medium>("marker");
  const add = useAddDrawer();
  const navigate = useNavigate();

  function submit(event: FormEvent) {
    event.preventDefault();
    if (name.trim())
      add.mutate(
        { name: name.trim(), medium },
        {
          onSuccess: (drawer) => {
            setName("");
            onClose();
            void navigate(`/drawers/${drawer.id}`);
          },
        },
      );
  }

  return (
    <Ask open={open} onClose={onClose} title="A new drawer">
      <form onSubmit={submit} className="flex flex-col gap-3">
        <label className="block">
          Name
          <input
            className="field mt-1"
            value={name}
            maxLength={LIMITS.DrawerRequest.name.maxLength}
            required
            autoFocus
            onChange={(event) => setName(event.target.value)}
          />
        </label>
        <label className="block">
          Medium
          <select className="field mt-1" value={medium} onChange={(event) => setMedium(event.target.value as Medium)}>
            {media.map((one) => (
              <option key={one.code} value={one.code}>
                {one.name}
              </option>
            ))}
          </select>
        </label>
        <div className="flex justify-end gap-3">
          <Button onClick={onClose}>Cancel</Button>
          <Button type="submit" kind="main" busy={add.isPending}>
            Make it
          </Button>
        </div>
      </form>
    </Ask>
  );
}

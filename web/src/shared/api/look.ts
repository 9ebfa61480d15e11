import { useMutation } from "@tanstack/react-query";

import { api } from "./client";
import type { Look } from "./types";

/** Reads a picture without keeping it, and says where its sheet lies. */
export function useLook() {
  return useMutation({
    mutationFn: (image: File) => {
      const form = new FormData();
      form.set("image", image);
      return api.post<Look>("/pieces/look/", form);
    },
    meta: { quiet: true },
  });
}

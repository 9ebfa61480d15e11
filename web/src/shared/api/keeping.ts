import { queryClient } from "./queryClient";

/**
 * While changes are still on their way, the page says so (`data-keeping`, which shows the word in the bar) and asks
 * before it is left or reloaded; a field with the cursor in it is kept first.
 */
export function watchKeeping() {
  queryClient.getMutationCache().subscribe(() => {
    document.documentElement.toggleAttribute("data-keeping", queryClient.isMutating() > 0);
  });
  window.addEventListener("beforeunload", (event) => {
    if (document.activeElement instanceof HTMLElement) document.activeElement.blur();
    if (queryClient.isMutating() > 0) event.preventDefault();
  });
}

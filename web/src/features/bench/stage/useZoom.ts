import { useCallback, useEffect, useRef, useState, type PointerEvent, type RefObject } from "react";

import { placeIn, useSingleKeys } from "@/shared/ui";
import { useHand } from "../bench";
import { closer, panned, STEP, WHOLE, type Zoom } from "./zoom";

/** A hand that moves less is clicking. */
const DRAG_PX = 5;

/** Looking closely: wheel, pinch, + and - and 0, dragging. `window` is what the picture is seen through. */
export function useZoom(window: RefObject<HTMLElement | null>) {
  const [zoom, setZoom] = useState<Zoom>(WHOLE);
  const fingers = useRef(new Map<number, { clientX: number; clientY: number }>());
  const dragged = useRef(0);

  useEffect(() => {
    const element = window.current;
    if (!element) return;
    // React listens to the wheel without being able to hold the page still.
    const onWheel = (event: WheelEvent) => {
      event.preventDefault();
      const at = placeIn(element, event);
      setZoom((now) => closer(now, Math.exp(-event.deltaY * (event.ctrlKey ? 0.01 : 0.0016)), at));
    };
    element.addEventListener("wheel", onWheel, { passive: false });
    return () => element.removeEventListener("wheel", onWheel);
  }, [window]);

  useSingleKeys(
    useCallback((key) => {
      if (key === "+" || key === "=") setZoom((now) => closer(now, STEP));
      if (key === "-") setZoom((now) => closer(now, 1 / STEP));
      if (key === "0") setZoom(WHOLE);
    }, []),
  );

  const onPointerDown = (event: PointerEvent) => {
    // Handles on the picture, and whatever draws on it, are moved themselves.
    const tool =
      useHand.getState().tool !== "hand" || (event.target instanceof Element && event.target.closest("button"));
    if (tool) return;
    if (fingers.current.size === 0) dragged.current = 0;
    fingers.current.set(event.pointerId, event);
  };
  const onPointerMove = (event: PointerEvent<HTMLElement>) => {
    const before = fingers.current.get(event.pointerId);
    const element = window.current;
    if (!before || !element) return;
    const { width, height } = element.getBoundingClientRect();
    const step = { x: event.clientX - before.clientX, y: event.clientY - before.clientY };
    dragged.current += Math.abs(step.x) + Math.abs(step.y);
    const others = [...fingers.current].filter(([id]) => id !== event.pointerId).map(([, finger]) => finger);
    fingers.current.set(event.pointerId, { clientX: event.clientX, clientY: event.clientY });
    const other = others[0];
    if (other) {
      const apart = (one: { clientX: number; clientY: number }) =>
        Math.hypot(one.clientX - other.clientX, one.clientY - other.clientY);
      const middle = { clientX: (event.clientX + other.clientX) / 2, clientY: (event.clientY + other.clientY) / 2 };
      const by = apart(event) / Math.max(1, apart(before));
      setZoom((now) => panned(closer(now, by, placeIn(element, middle)), -step.x / 2 / width, -step.y / 2 / height));
    } else if (zoom.times > 1 && dragged.current > DRAG_PX) {
      setZoom((now) => panned(now, -step.x / width, -step.y / height));
    }
  };
  const lift = (event: PointerEvent) => fingers.current.delete(event.pointerId);
  return {
    zoom,
    setZoom,
    /** Whether the pointer that was just lifted moved the picture, and so clicked nothing. */
    wasDrag: () => dragged.current > DRAG_PX && zoom.times > 1,
    panProps: { onPointerDown, onPointerMove, onPointerUp: lift, onPointerCancel: lift, onPointerLeave: lift },
  };
}

import { useRef, useState, type PointerEvent } from "react";

const placeUnder = (x: number, y: number, of: string) =>
  document
    .elementsFromPoint(x, y)
    .map((element) => element.closest<HTMLElement>(`[data-${of}]`)?.dataset[of])
    .find((place) => place !== undefined);

/** Pixels at the edge of the list within which it scrolls on. */
const EDGE = 70;
const SCROLL_STEP = 14;

/** The list that scrolls around an element. */
function scrollerOf(element: HTMLElement): HTMLElement | undefined {
  for (let node = element.parentElement; node; node = node.parentElement)
    if (node.scrollHeight > node.clientHeight + 1 && /auto|scroll/.test(getComputedStyle(node).overflowY)) return node;
  return undefined;
}

/**
 * A thing that is dragged from place to place by its handle, with a finger or a mouse; near the edge the list scrolls on.
 * @param drop where it was let go, where that is a place
 * @param of what places are told by: `day` for elements with `data-day`
 */
export function useDrag(drop: (id: string, on: string) => void, of = "day") {
  const [over, setOver] = useState<string>();
  const held = useRef<{ id: string; on: string | undefined; scroller: HTMLElement | undefined }>(undefined);
  const move = (event: PointerEvent<HTMLElement>) => {
    if (!held.current) return;
    const { scroller } = held.current;
    if (scroller) {
      const { top, bottom } = scroller.getBoundingClientRect();
      if (event.clientY > bottom - EDGE) scroller.scrollTop += SCROLL_STEP;
      if (event.clientY < top + EDGE) scroller.scrollTop -= SCROLL_STEP;
    }
    held.current.on = placeUnder(event.clientX, event.clientY, of);
    setOver(held.current.on);
  };
  const end = () => {
    const { id, on } = held.current ?? {};
    held.current = undefined;
    setOver(undefined);
    if (id !== undefined && on !== undefined) drop(id, on);
  };
  const handle = (id: string) => ({
    style: { touchAction: "none", cursor: "grab" },
    onPointerDown: (event: PointerEvent<HTMLElement>) => {
      event.preventDefault();
      event.currentTarget.setPointerCapture(event.pointerId);
      held.current = { id, on: undefined, scroller: scrollerOf(event.currentTarget) };
    },
    onPointerMove: move,
    onPointerUp: end,
    onPointerCancel: () => {
      held.current = undefined;
      setOver(undefined);
    },
  });
  return { over, handle };
}

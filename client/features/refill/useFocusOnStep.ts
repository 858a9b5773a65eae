import { useEffect, useRef } from "react";

/** After each step the focus stands at its heading, so that it is read out; not at the first one shown. */
export function useFocusOnStep(id: string): void {
  const before = useRef(id);
  useEffect(() => {
    if (before.current === id) return;
    before.current = id;
    const heading = document.querySelector<HTMLElement>("main h1");
    if (!heading) return;
    heading.tabIndex = -1;
    heading.focus();
    heading.scrollIntoView?.({ block: "nearest" });
  }, [id]);
}

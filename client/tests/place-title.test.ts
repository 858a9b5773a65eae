import { renderHook, waitFor } from "@testing-library/react";
import { useFocusOnPlace } from "../ui/place-title";

/** A page of the app: a way to another place, and the place with its heading. */
function page(heading?: string) {
  document.body.innerHTML = `<nav><a href="#" id="way">Water</a></nav><main>${heading ? `<h1>${heading}</h1>` : ""}</main><button id="undo">Undo</button>`;
  document.getElementById("way")!.focus();
  return document.querySelector("main")!;
}
const goes = () => renderHook(({ path }) => useFocusOnPlace(path), { initialProps: { path: "/" } });
const focused = () => document.activeElement?.textContent;
const later = (ms: number) => new Promise((done) => setTimeout(done, ms));

describe("after going to another place the focus", () => {
  test("comes to its heading however late it stands, also where the old one stood for long", async () => {
    const main = page("The rack");
    goes().rerender({ path: "/water" });
    await later(400);
    main.innerHTML = "<p>One moment…</p>";
    await later(50);
    main.innerHTML = "<h1>The water</h1>";
    await waitFor(() => expect(focused()).toBe("The water"));
  });

  test("goes with a heading that is drawn anew, and stays where the hand has moved on to", async () => {
    const main = page();
    goes().rerender({ path: "/water" });
    main.innerHTML = "<h1>Water</h1>";
    await waitFor(() => expect(focused()).toBe("Water"));
    main.innerHTML = '<h1>The water</h1><button id="field">A reading</button>';
    await waitFor(() => expect(focused()).toBe("The water"));
    document.getElementById("field")!.focus();
    main.querySelector("h1")!.replaceWith(Object.assign(document.createElement("h1"), { textContent: "Taps" }));
    await later(50);
    expect(focused()).toBe("A reading");
    document.getElementById("field")!.blur();
    main.querySelector("h1")!.replaceWith(Object.assign(document.createElement("h1"), { textContent: "The taps" }));
    await later(50);
    expect(document.activeElement).toBe(document.body);
  });

  test("stays in the frame round the place, once the hand has gone there from the heading", async () => {
    const main = page();
    goes().rerender({ path: "/water" });
    main.innerHTML = "<h1>Water</h1>";
    await waitFor(() => expect(focused()).toBe("Water"));
    document.getElementById("undo")!.focus();
    main.innerHTML = "<h1>The water</h1>";
    await later(50);
    expect(focused()).toBe("Undo");
  });

  test("stays on what was pressed in a place that only changes its address, and comes where the same heading stays", async () => {
    const main = page("History");
    main.insertAdjacentHTML("beforeend", '<button id="pressed">Bay</button>');
    const { rerender } = goes();
    document.getElementById("pressed")!.focus();
    rerender({ path: "/history/bay" });
    await later(300);
    expect(focused()).toBe("Bay");
    document.getElementById("way")!.focus();
    rerender({ path: "/history/van" });
    await waitFor(() => expect(focused()).toBe("History"));
  });
});

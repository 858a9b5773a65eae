/** The places of the app, in the order of their keys. */
export const PLACES = [
  { path: "/", name: "Rack" },
  { path: "/water", name: "Water" },
  { path: "/size", name: "Size" },
  { path: "/history", name: "History" },
  { path: "/setup", name: "Setup" },
] as const;
/** On the wide rail only; a phone comes to it from Water. */
export const RAIL_PLACES = [...PLACES, { path: "/lab", name: "Lab" }] as const;

export const isHere = (path: string, place: string, wide: boolean) =>
  place === "/"
    ? path === "/" || path.startsWith("/log")
    : path.startsWith(place) || (place === "/water" && !wide && path.startsWith("/lab"));

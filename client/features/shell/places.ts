/** The places of the app, in the order of their keys. */
export const PLACES = [
  { path: "/", name: "Rack" },
  { path: "/water", name: "Water" },
  { path: "/size", name: "Size" },
  { path: "/weeks", name: "Weeks" },
  { path: "/history", name: "History" },
] as const;
/** On the wide rail only; a phone comes to the one from the rack's title, to the other from Water. */
export const RAIL_PLACES = [...PLACES, { path: "/setup", name: "Setup" }, { path: "/lab", name: "Lab" }] as const;

export const isHere = (path: string, place: string, wide: boolean) =>
  place === "/"
    ? path === "/" || path.startsWith("/log") || (!wide && path.startsWith("/setup"))
    : path.startsWith(place) ||
      (place === "/weeks" && path.startsWith("/refill")) ||
      (place === "/water" && !wide && path.startsWith("/lab"));

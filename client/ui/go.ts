/** How the app goes to another of its places; the shell says how, so that a part of the interface needs no router. */
let way: (href: string) => void = (href) => location.assign(href);

export const setWay = (go: (href: string) => void): void => {
  way = go;
};

export const go = (href: string): void => way(href);

/** Whether a key is meant for the place as a whole: not for a field or a dialog, and not for the browser. */
export const isForThePlace = (event: KeyboardEvent): boolean =>
  !(event.target instanceof HTMLElement && /^(input|textarea|select)$/i.test(event.target.tagName)) &&
  !(event.ctrlKey || event.metaKey || event.altKey) &&
  !document.querySelector("dialog[open]");

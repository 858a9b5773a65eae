/** Only a page that shows a code needs this; import it with `import()` alone. */
export { create } from "qrcode";

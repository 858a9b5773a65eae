declare module "pdfmake/build/fonts/Roboto" {
  const fonts: { vfs: Record<string, string>; fonts: Record<string, Record<string, string>> };
  export default fonts;
}

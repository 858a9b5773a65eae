declare module "pdfmake/build/standard-fonts/Helvetica" {
  const fonts: { vfs: Record<string, string>; fonts: Record<string, Record<string, string>> };
  export default fonts;
}

/** What is used of pdfmake 0.3, which brings no types of its own. */
declare module 'pdfmake' {
  interface Made {
    getBuffer(): Promise<Buffer>;
  }
  const pdfmake: {
    setUrlAccessPolicy(may: (url: string) => boolean): void;
    setLocalAccessPolicy(may: (path: string) => boolean): void;
    setFonts(fonts: Record<string, { normal: string; bold: string }>): void;
    createPdf(document: object): Made;
  };
  export default pdfmake;
}

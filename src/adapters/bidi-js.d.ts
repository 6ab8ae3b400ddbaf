declare module 'bidi-js' {
  /** The Unicode bidirectional algorithm; levels by UTF-16 position. */
  export default function bidiFactory(): {
    getEmbeddingLevels(text: string, base?: 'ltr' | 'rtl' | 'auto'): { readonly levels: Uint8Array };
  };
}

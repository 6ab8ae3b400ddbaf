/** A file to keep: shown by nothing, saved under its name. */
export function fileResponse(name: string, type: string, bytes: Uint8Array): Response {
  return new Response(Uint8Array.from(bytes), {
    headers: {
      'content-type': type,
      'content-disposition': `attachment; filename*=UTF-8''${encodeURIComponent(name)}`,
      'x-content-type-options': 'nosniff',
      'cache-control': 'no-store',
    },
  });
}

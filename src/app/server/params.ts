import 'server-only';

export type SearchParams = Promise<Record<string, string | string[] | undefined>>;

/** Address parameters with one value each; of a repeated one the first counts, an empty one is not there. */
export async function single(params: SearchParams): Promise<Record<string, string | undefined>> {
  return Object.fromEntries(
    Object.entries(await params).map(([name, value]) => [name, (Array.isArray(value) ? value[0] : value) || undefined]),
  );
}

/** What a list shows, as its filter schema reads it; an address that makes no sense shows everything. */
export function readFilter<T>(
  schema: { safeParse(value: unknown): { success: true; data: T } | { success: false } },
  params: unknown,
  otherwise: T,
): T {
  const parsed = schema.safeParse(params);
  return parsed.success ? parsed.data : otherwise;
}

/** An id from an address, or null. */
export function idParam(text: string | undefined): number | null {
  return text !== undefined && /^\d{1,15}$/.test(text) ? Number(text) : null;
}

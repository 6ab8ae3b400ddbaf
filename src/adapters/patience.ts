/** How long and how often the other side is asked before it is given up. Times in milliseconds. */
export interface Patience {
  /** Questions in all, the first one counted. */
  readonly tries: number;
  /** The wait after the first failure; each further one is twice as long. */
  readonly firstWait: number;
  readonly longestWait: number;
  /** How long one answer may take. */
  readonly timeout: number;
  readonly sleep: (milliseconds: number) => Promise<void>;
}

export const PATIENCE: Patience = {
  tries: 6,
  firstWait: 200,
  longestWait: 5_000,
  timeout: 15_000,
  sleep: (milliseconds) => new Promise((resolve) => setTimeout(resolve, milliseconds)),
};

/** Why the other side could not be reached, or would not answer. */
export type ShutReason =
  | { readonly why: 'unreachable' }
  | { readonly why: 'timeout' }
  | { readonly why: 'refused'; readonly status: number }
  | { readonly why: 'unwell'; readonly status: number }
  | { readonly why: 'senseless'; readonly found: string };

/** The other side is given up. `retries` says how often it was asked again before. */
export class DoorShut extends Error {
  constructor(readonly reason: ShutReason) {
    super(reason.why);
  }
}

/** The reason in words, without a full stop. */
export function shutWords(reason: ShutReason): string {
  switch (reason.why) {
    case 'unreachable':
      return 'it could not be reached';
    case 'timeout':
      return 'it did not answer in time';
    case 'refused':
      return reason.status === 401 || reason.status === 403
        ? 'it does not know the key'
        : `it would not answer (${reason.status})`;
    case 'unwell':
      return reason.status === 429 ? 'it was too busy' : `it was not well (${reason.status})`;
    case 'senseless':
      return `its answer makes no sense: ${reason.found}`;
  }
}

/** Seconds that a busy side asks to wait (RFC 9110, 10.2.3), in milliseconds; null where it does not say. */
function askedToWait(response: Response): number | null {
  const seconds = Number(response.headers.get('retry-after') ?? '');
  return Number.isFinite(seconds) && seconds > 0 ? seconds * 1000 : null;
}

async function once(
  url: URL,
  headers: Record<string, string>,
  timeout: number,
  body?: string,
): Promise<Response | ShutReason> {
  try {
    return await fetch(url, {
      ...(body !== undefined && { method: 'POST', body }),
      headers,
      signal: AbortSignal.timeout(timeout),
      redirect: 'error',
    });
  } catch (error) {
    return { why: error instanceof Error && error.name === 'TimeoutError' ? 'timeout' : 'unreachable' };
  }
}

/**
 * Asks for JSON. Busy (429) and unwell (5xx) answers, and none at all, are asked again with a growing wait, or the one the
 * other side asks for; anything else that is no success is final.
 * @param retried is called before each further question.
 * @param body makes the question a POST; it must be safe to be asked twice.
 * @throws DoorShut
 */
export async function askPatiently(
  url: URL,
  headers: Record<string, string>,
  patience: Patience,
  retried: () => void,
  body?: string,
): Promise<unknown> {
  let wait = patience.firstWait;
  for (let asked = 1; ; asked++) {
    const answer = await once(url, headers, patience.timeout, body);
    let reason: ShutReason;
    let asks: number | null = null;
    if (answer instanceof Response) {
      if (answer.ok) {
        return answer.json().catch(() => {
          throw new DoorShut({ why: 'senseless', found: 'no JSON' });
        });
      }
      await answer.body?.cancel();
      const { status } = answer;
      if (status !== 429 && status < 500) throw new DoorShut({ why: 'refused', status });
      reason = { why: 'unwell', status };
      asks = askedToWait(answer);
    } else {
      reason = answer;
    }
    if (asked >= patience.tries) throw new DoorShut(reason);
    retried();
    await patience.sleep(Math.min(asks ?? wait, patience.longestWait));
    wait *= 2;
  }
}

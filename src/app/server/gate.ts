/** Hosts this server answers to, beside its own loopback address: a page of another name must not reach the books. */
const HOSTS = new Set((process.env.NEST_EGG_HOSTS ?? '').split(',').filter(Boolean));

function isOurHost(host: string): boolean {
  const name = host.replace(/:\d+$/, '');
  return name === '127.0.0.1' || name === 'localhost' || name === '[::1]' || HOSTS.has(name);
}

/** Refuses foreign hosts, and foreign pages that would change something; null where the request may pass. */
export function refusedAtTheGate(request: Request): Response | null {
  const host = request.headers.get('host') ?? '';
  if (!isOurHost(host)) return new Response('This address is not served here.', { status: 421 });
  const origin = request.headers.get('origin');
  const changes = request.method !== 'GET' && request.method !== 'HEAD';
  if (changes && origin !== null && new URL(origin).host !== host) {
    return new Response('Changes are taken from this application’s own pages only.', { status: 403 });
  }
  return null;
}

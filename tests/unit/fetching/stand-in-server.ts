import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';

/** An HTTP server in this process that answers as told, and keeps what it was asked. */
export class StandInServer {
  readonly asked: Request[] = [];

  private constructor(
    private readonly server: Server,
    readonly address: string,
  ) {}

  static async open(answer: (request: Request, asked: number) => Response): Promise<StandInServer> {
    const held: { standIn?: StandInServer } = {};
    const server = createServer((incoming, outgoing) => {
      const { asked } = held.standIn!;
      const headers = Object.entries(incoming.headers).map(
        ([name, value]) => [name, String(value)] as [string, string],
      );
      asked.push(new Request(`http://stand-in.example${incoming.url}`, { headers }));
      const response = answer(asked.at(-1)!, asked.length);
      void response.text().then((body) => {
        outgoing.writeHead(response.status, Object.fromEntries(response.headers));
        outgoing.end(body);
      });
    });
    await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
    const { port } = server.address() as AddressInfo;
    return (held.standIn = new StandInServer(server, `http://127.0.0.1:${port}`));
  }

  async close(): Promise<void> {
    this.server.closeAllConnections();
    await new Promise((resolve) => this.server.close(resolve));
  }
}

export const json = (body: unknown, status = 200, headers: Record<string, string> = {}) =>
  new Response(JSON.stringify(body), { status, headers });

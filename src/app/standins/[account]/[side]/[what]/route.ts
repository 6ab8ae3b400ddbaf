import type { NextRequest } from 'next/server';
import { answers, worlds } from '../../../../server/standins';

interface Context {
  readonly params: Promise<{ account: string; side: string; what: string }>;
}

/** The simulated desk and bank, over HTTP like any other service. */
export async function GET(request: NextRequest, { params }: Context) {
  const { account, side, what } = await params;
  const world = worlds.find(account);
  if (!world) return Response.json({ error: 'nobody of this name' }, { status: 404 });
  return answers.answer(world, `${side}/${what}`, request);
}

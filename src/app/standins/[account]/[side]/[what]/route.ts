import type { NextRequest } from 'next/server';
import { wireCheckout } from '@/formats/movements/wire';
import { knowsKey } from '@/standins/answers';
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

/** Takes an order: whoever pays is sent to its page. */
export async function POST(request: NextRequest, { params }: Context) {
  const { account, side, what } = await params;
  const world = worlds.find(account);
  if (!world || side !== 'desk' || what !== 'checkouts') {
    return Response.json({ error: 'nothing here' }, { status: 404 });
  }
  if (!knowsKey(world.seed.secret, request)) return Response.json({ error: 'wrong key' }, { status: 401 });
  const wanted = wireCheckout.safeParse(await request.json().catch(() => null));
  if (!wanted.success) return Response.json({ error: 'no order' }, { status: 400 });
  const taken = worlds.order(account, wanted.data);
  if ('error' in taken) return Response.json(taken, { status: 409 });
  const { id, receipt } = taken.order;
  return Response.json({ pay: `/standins/${account}/checkout/${id}`, receipt });
}

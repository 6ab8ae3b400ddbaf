import type { Metadata } from 'next';
import { formatAmount, minor } from '@/core/money';
import { BeginButton } from '@/ui/public/begin-button';
import { PublicFrame, PublicWord } from '@/ui/public/public-frame';
import { worlds } from '../../../../server/standins';
import { payOrderNow } from './actions';

export const metadata: Metadata = { title: 'Pay', robots: { index: false, follow: false } };

/** The simulated desk's own page: whoever pays is sent here, and sent back. No card is asked for: there is none. */
export default async function CheckoutPage({ params }: { params: Promise<{ account: string; id: string }> }) {
  const { account, id } = await params;
  const order = worlds.findOrder(account, id);
  const desk = worlds.find(account)?.seed.desk.name ?? 'Desk';
  if (!order || order.givenUp) {
    return (
      <PublicWord name={desk} title="There is nothing to pay at this address">
        <p>It was paid another way, or begun anew. Go back to where you came from and begin again.</p>
      </PublicWord>
    );
  }
  const pay = async () => {
    'use server';
    return payOrderNow(account, id);
  };
  const every = order.every === 'month' ? ', and again each month' : '';
  return (
    <PublicFrame name={desk} about="a simulated service: no money moves">
      <h1>{order.title}</h1>
      <section className="ask" aria-label="To pay">
        <div className="figure">
          {formatAmount(minor(order.amount), order.currency)} {order.currency}
        </div>
        {order.paidOn ? (
          <p>
            This is paid. <a href={order.returnTo}>Back</a>
          </p>
        ) : (
          <>
            <p>
              {order.payer.name ? `From ${order.payer.name}` : 'From somebody who is not named'}
              {every}. A real desk would ask for a card here.
            </p>
            <BeginButton begin={pay}>Pay</BeginButton>{' '}
            <a href={order.returnTo.replace('?back=1', '')}>Back without paying</a>
          </>
        )}
      </section>
    </PublicFrame>
  );
}

import 'server-only';
import { mailer } from '@/adapters/mailer';
import { handOn, sendInvoice } from '@/books/billing/hand-out';
import { runPlans, type PlansRun } from '@/books/billing/plan-runs';
import { runCommand } from '@/books/command';
import { ACTOR, listBooks, openBooks } from './books';
import { origin } from './fetching';

/** Mails what plans issued, where the plan says so and the payer has an email. */
export async function sendPlanned(name: string, { issued }: PlansRun): Promise<void> {
  const books = openBooks(name);
  for (const { invoice, sends } of issued) {
    if (!sends) continue;
    const to = await books.reader
      .selectFrom('invoice')
      .innerJoin('payer', 'payer.id', 'invoice.payer_id')
      .select('payer.email')
      .where('invoice.id', '=', invoice)
      .executeTakeFirst();
    if (!to?.email) continue;
    const input = { invoice, to: to.email, message: '', origin: origin(), books: name };
    const sent = await runCommand(books, sendInvoice, input, { actor: ACTOR });
    if (sent.ok) await handOn(books, sent.value.mail, mailer(process.env.NEST_EGG_SMTP));
  }
}

/** Bills what plans of all books have due: asked every minute, it does nothing where nothing is. */
export async function billAllDue(): Promise<void> {
  for (const name of listBooks()) {
    try {
      const active = await openBooks(name)
        .reader.selectFrom('plan')
        .select('id')
        .where('active', '=', 1)
        .executeTakeFirst();
      if (!active) continue;
      const ran = await runCommand(openBooks(name), runPlans, { plan: null }, { actor: { name: 'plans' } });
      if (ran.ok) await sendPlanned(name, ran.value);
    } catch (error) {
      console.error('plans failed', name, error);
    }
  }
}

import { z } from 'zod';
import { ACCOUNT_CLASSES, ACCOUNT_ROLES, SINGLE_ROLES, type AccountClass, type AccountRole } from '@/core/ledger';
import { done, refuse, type Command, type Outcome } from '../command';

export interface AccountInput {
  readonly code: string;
  readonly name: string;
  readonly class: AccountClass;
  readonly role: AccountRole | null;
}

/** Keeps an account of the chart, known by its code. What it is booked as stays; its name may change. */
export const keepAccount: Command<AccountInput, { account: number }> = {
  name: 'keep-account',
  input: z.object({
    code: z.string().trim().min(1).max(40),
    name: z.string().trim().min(1).max(120),
    class: z.enum(ACCOUNT_CLASSES),
    role: z.enum(ACCOUNT_ROLES).nullable(),
  }),
  async run({ db }, input): Promise<Outcome<{ account: number }>> {
    const { code, name } = input;
    const there = await db.selectFrom('account').selectAll().where('code', '=', code).executeTakeFirst();
    if (!there) {
      if (input.role !== null && SINGLE_ROLES.includes(input.role)) {
        const other = await db
          .selectFrom('account')
          .select(['code', 'name'])
          .where('role', '=', input.role)
          .executeTakeFirst();
        if (other) return refuse({ code: 'role-taken', role: input.role, account: `${other.code} ${other.name}` });
      }
      const { currency } = await db.selectFrom('books').select('currency').executeTakeFirstOrThrow();
      const made = await db
        .insertInto('account')
        .values({ ...input, currency })
        .returning('id')
        .executeTakeFirstOrThrow();
      const undo = { command: 'remove-account', input: { code }, label: `remove account ${code}` };
      return done({ account: made.id }, `Added account ${code} ${name}`, undo);
    }
    if (there.class !== input.class || there.role !== input.role) {
      return refuse({
        code: 'account-differs',
        account: `${code} ${there.name}`,
        is: [there.class, there.role].filter(Boolean).join(', '),
      });
    }
    if (there.name === name) return done({ account: there.id }, null);
    await db.updateTable('account').set({ name }).where('id', '=', there.id).execute();
    return done({ account: there.id }, `Changed account ${code} to ${name}`, {
      command: 'keep-account',
      input: { ...input, name: there.name },
      label: `call ${code} ${there.name} again`,
    });
  },
};

/** Takes an account out of the chart again while nothing names it. */
export const removeAccount: Command<{ code: string }, null> = {
  name: 'remove-account',
  input: z.object({ code: z.string() }),
  async run({ db }, { code }) {
    const row = await db.selectFrom('account').selectAll().where('code', '=', code).executeTakeFirst();
    if (!row) return refuse({ code: 'not-found', what: 'account', id: code });
    try {
      await db.deleteFrom('account').where('id', '=', row.id).execute();
    } catch (error) {
      if ((error as { code?: string }).code !== 'SQLITE_CONSTRAINT_FOREIGNKEY') throw error;
      return refuse({ code: 'in-use', what: 'account', name: `${code} ${row.name}` });
    }
    const { name, class: of, role } = row;
    const input = { code, name, class: of, role };
    return done(null, `Removed account ${code} ${name}`, {
      command: 'keep-account',
      input,
      label: `add ${code} again`,
    });
  },
};

import { z } from 'zod';
import { receiptProfile, type ReceiptProfile } from '@/formats/receipts/profile';
import { done, refuse, type Command } from '../command';
import type { Reading } from '../store';

/** How files with one header are read, as it was confirmed and is found again. */
export interface KeptReading {
  readonly fingerprint: string;
  readonly settings: ReceiptProfile;
  /** UTC. */
  readonly usedAt: string;
}

export async function keptReadings(db: Reading): Promise<KeptReading[]> {
  const rows = await db.selectFrom('profile').selectAll().orderBy('used_at', 'desc').execute();
  return rows.flatMap(({ fingerprint, settings, used_at: usedAt }) => {
    const read = receiptProfile.safeParse(JSON.parse(settings));
    return read.success ? [{ fingerprint, settings: read.data, usedAt }] : [];
  });
}

export interface KeepReadingInput {
  fingerprint: string;
  /** Null forgets it: files with this header are asked about again. */
  settings: ReceiptProfile | null;
  usedAt?: string | undefined;
}

/** Forgets how files with a header are read, or keeps it again. What came in by it stays. */
export const keepReading: Command<KeepReadingInput, null> = {
  name: 'keep-reading',
  input: z.object({
    fingerprint: z.string().min(1).max(20_000),
    settings: receiptProfile.nullable(),
    usedAt: z.string().optional(),
  }),
  async run({ db }, { fingerprint, settings, usedAt }, { now }) {
    const kept = (await keptReadings(db)).find((one) => one.fingerprint === fingerprint);
    const title = fingerprint.split('|').slice(0, 3).join(', ');
    if (settings !== null) {
      const row = { settings: JSON.stringify(settings), used_at: usedAt ?? now.toISOString() };
      await db
        .insertInto('profile')
        .values({ fingerprint, ...row })
        .onConflict((c) => c.column('fingerprint').doUpdateSet(row))
        .execute();
      return done(null, `Kept how files with ${title} … are read`);
    }
    if (!kept) return refuse({ code: 'not-found', what: 'reading', id: title });
    await db.deleteFrom('profile').where('fingerprint', '=', fingerprint).execute();
    return done(null, `Forgot how files with ${title} … are read`, {
      command: 'keep-reading',
      input: { ...kept },
      label: 'read them as before',
    });
  },
};

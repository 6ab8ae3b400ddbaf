import { z } from 'zod';
import { fromBuffer } from 'file-type';
import { done, refuse, type Command } from '../command';
import type { Reading } from '../store';
import { cleanText } from './bill-input';

export const ATTACHMENT_BYTES = 10 * 1024 * 1024;

/** What may be attached, by the ending of its name. Text has no mark of its own: it is what holds no other and no NUL. */
const KINDS: Readonly<Record<string, string>> = {
  pdf: 'application/pdf',
  png: 'image/png',
  jpg: 'image/jpeg',
  jpeg: 'image/jpeg',
  webp: 'image/webp',
  xlsx: 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
  csv: 'text/csv',
  txt: 'text/plain',
};

const ending = (name: string) => /\.([a-z0-9]{1,5})$/i.exec(name)?.[1]?.toLowerCase() ?? '';

function isText(bytes: Uint8Array): boolean {
  if (bytes.includes(0)) return false;
  try {
    new TextDecoder('utf-8', { fatal: true }).decode(bytes);
    return true;
  } catch {
    return false;
  }
}

/** The media type of a file by what is in it, or what it holds in words where that is not what its name says. */
export async function mediaTypeOf(
  name: string,
  bytes: Uint8Array,
): Promise<{ readonly type: string } | { readonly found: string }> {
  const wanted = KINDS[ending(name)];
  const found = await fromBuffer(Buffer.from(bytes));
  if (found) return found.mime === wanted ? { type: found.mime } : { found: `a file of the kind ${found.mime}` };
  if (wanted?.startsWith('text/')) return isText(bytes) ? { type: wanted } : { found: 'no readable text' };
  return { found: isText(bytes) ? 'plain text' : 'nothing that is known here' };
}

export interface AttachmentView {
  readonly id: number;
  readonly name: string;
  readonly type: string;
  readonly bytes: number;
  readonly addedAt: string;
  readonly actor: string;
}

const SUBJECTS = ['invoice', 'receipt', 'payer', 'gift-batch'] as const;
export type AttachmentSubject = (typeof SUBJECTS)[number];
const subject = z.enum(SUBJECTS);

/** Ties a file that is stored already to a document. */
export const attach: Command<
  { subject: AttachmentSubject; id: number; name: string; type: string; sha256: string; bytes: number },
  { attachment: number }
> = {
  name: 'attach',
  input: z.object({
    subject,
    id: z.number().int(),
    name: z
      .string()
      .min(1)
      .max(200)
      .transform((name) => cleanText(name).replace(/[\\/]/g, '-')),
    type: z.string().max(100),
    sha256: z.string().regex(/^[0-9a-f]{64}$/),
    bytes: z.number().int().positive().max(ATTACHMENT_BYTES),
  }),
  async run({ db }, { subject: kind, id, name, type, sha256, bytes }, { now, actor }) {
    const there = await db
      .selectFrom(kind === 'gift-batch' ? 'gift_batch' : kind)
      .select('id')
      .where('id', '=', id)
      .executeTakeFirst();
    if (!there) return refuse({ code: 'not-found', what: kind, id: String(id) });
    const row = await db
      .insertInto('attachment')
      .values({
        subject: kind,
        subject_id: id,
        name,
        media_type: type,
        bytes,
        sha256,
        added_at: now.toISOString(),
        actor: actor.name,
        removed_at: null,
      })
      .returning('id')
      .executeTakeFirstOrThrow();
    return done({ attachment: row.id }, `Attached ${name}`, {
      command: 'set-attachment',
      input: { attachment: row.id, removed: true },
      label: `take ${name} off`,
    });
  },
};

/** Takes an attachment off, or puts it back; its bytes are kept. */
export const setAttachment: Command<{ attachment: number; removed: boolean }, null> = {
  name: 'set-attachment',
  input: z.object({ attachment: z.number().int(), removed: z.boolean() }),
  async run({ db }, { attachment, removed }, { now }) {
    const row = await db.selectFrom('attachment').selectAll().where('id', '=', attachment).executeTakeFirst();
    if (!row) return refuse({ code: 'not-found', what: 'attachment', id: String(attachment) });
    if ((row.removed_at !== null) === removed) return done(null, null);
    await db
      .updateTable('attachment')
      .set({ removed_at: removed ? now.toISOString() : null })
      .where('id', '=', attachment)
      .execute();
    return done(null, removed ? `Took ${row.name} off` : `Put ${row.name} back`, {
      command: 'set-attachment',
      input: { attachment, removed: !removed },
      label: removed ? `put ${row.name} back` : `take ${row.name} off`,
    });
  },
};

export async function attachmentsOf(db: Reading, kind: AttachmentSubject, id: number): Promise<AttachmentView[]> {
  return db
    .selectFrom('attachment')
    .select(['id', 'name', 'media_type as type', 'bytes', 'added_at as addedAt', 'actor'])
    .where('subject', '=', kind)
    .where('subject_id', '=', id)
    .where('removed_at', 'is', null)
    .orderBy('id')
    .execute();
}

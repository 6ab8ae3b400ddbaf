import { parsePlainDate, type PlainDate } from '@/core/calendar';
import { parseRate, type Currency, type Rate } from '@/core/money';

export interface RateRow {
  readonly currency: Currency;
  readonly day: PlainDate;
  readonly rate: Rate;
}

const LINE = /^(\d{4}-\d{2}-\d{2})[\s,;]+([A-Za-z]{3})[\s,;]+([\d.]+)$/;

/** Lines of “2026-11-03 GBP 1.1700”, as they are typed or pasted; the first that cannot be read is named. */
export function readRateLines(text: string): { readonly rates: RateRow[] } | { readonly unread: string } {
  const rates: RateRow[] = [];
  for (const raw of text.split('\n')) {
    const line = raw.trim();
    if (line === '') continue;
    const match = LINE.exec(line);
    const day = match && parsePlainDate(match[1]!);
    const rate = match && parseRate(match[3]!);
    if (!match || !day || rate === null) return { unread: line.slice(0, 60) };
    rates.push({ day, currency: match[2]!.toUpperCase(), rate });
  }
  return { rates };
}

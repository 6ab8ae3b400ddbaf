import { tzOffset } from '@date-fns/tz';
import { parsePlainDate } from '../../core/calendar';
import { parseAmount, type Currency, type ParsedAmount } from '../../core/money';

export type DecimalMark = '.' | ',';
export type DateOrder = 'YMD' | 'DMY' | 'MDY' | 'serial';

const APOSTROPHE = 39;
const EQUALS = 61;

/** What a spreadsheet leaves around a value: ="…" that keeps leading noughts, and an apostrophe before text. */
export function unwrap(text: string): string {
  const trimmed = text.trim();
  // Nearly all cells begin with neither sign.
  const first = trimmed.charCodeAt(0);
  if (first !== APOSTROPHE && first !== EQUALS) return trimmed;
  const bare = trimmed.replace(/^'/, '').trim();
  const quoted = /^="(.*)"$/.exec(bare);
  return quoted ? quoted[1]!.trim() : bare;
}

const PLAIN = /^[-+]?\d+(\.\d+)?$/;

/**
 * Reads an amount as people and spreadsheets write it: currency signs and codes, spaces, thousands separators,
 * a minus before, behind or as brackets. The decimal mark must be known. Text that is none of it is a fault.
 */
export function parseLooseAmount(text: string, currency: Currency, decimal: DecimalMark): ParsedAmount {
  if (decimal === '.' && PLAIN.test(text)) return parseAmount(text, currency);
  let rest = text.replace(/[\p{Sc}\s\u00A0\u202F'’]|\b[A-Z]{3}\b/gu, '');
  let negative = false;
  if (/^\(.*\)$/.test(rest)) {
    negative = true;
    rest = rest.slice(1, -1);
  } else if (/[-−]$/.test(rest)) {
    negative = true;
    rest = rest.slice(0, -1);
  }
  rest = rest.replace(/^−/, '-');
  const group = decimal === '.' ? ',' : '.';
  const grouped = new RegExp(`^[-+]?\\d{1,3}(\\${group}\\d{2,3})+(\\${decimal}\\d*)?$`);
  if (rest.includes(group)) {
    if (!grouped.test(rest)) return { ok: false, fault: 'not-a-number' };
    rest = rest.replaceAll(group, '');
  }
  if (decimal === ',') rest = rest.replace(',', '.');
  rest = rest.replace(/\.$/, '');
  if (negative && rest.startsWith('-')) return { ok: false, fault: 'not-a-number' };
  return parseAmount(negative ? `-${rest}` : rest, currency);
}

const TEXT_DATE = /^(\d{1,4})[./\-\s](\d{1,2})[./\-\s](\d{1,4})(?:[T,\s]+(.*))?$/;
const TIME = /^(\d{1,2}):(\d{2})(?::(\d{2})(?:[.,]\d+)?)?\s*([AaPp][Mm])?\s*(Z|UTC|[+-]\d{2}:?\d{2})?$/;

export interface LooseDate {
  readonly first: number;
  readonly second: number;
  readonly third: number;
  readonly time: string;
}

/** Takes a date apart without saying which part is the day; null where the text is no date in numbers. */
export function datePieces(text: string): LooseDate | null {
  const match = TEXT_DATE.exec(text);
  if (!match) return null;
  return { first: Number(match[1]), second: Number(match[2]), third: Number(match[3]), time: match[4] ?? '' };
}

/** Days of a spreadsheet since 30 December 1899; only those of this century are taken for dates. */
export function isSerialDate(text: string): boolean {
  return /^\d{5}(\.\d+)?$/.test(text) && Number(text) >= 36_526 && Number(text) < 73_415;
}

const two = (n: number) => String(n).padStart(2, '0');

const DAY = 86_400_000;
/** Days whose offset is looked up at once are this many; files go by the day, so few are needed. */
const DAYS_HELD = 512;
const offsets = new Map<string, number | null>();

/**
 * The offset of a zone on a whole day in minutes, where it is one; null on a day with a change of the clocks. Asked of the
 * time zone data once a day and not once a row, which is most of what reading a date costs.
 */
function offsetOfDay(date: string, zone: string): number | null {
  const key = `${date} ${zone}`;
  const held = offsets.get(key);
  if (held !== undefined) return held;
  const midnight = Date.parse(`${date}T00:00:00Z`);
  // A day of the zone lies within these three days of UTC.
  const around = [-1, 0, 1, 2].map((days) => tzOffset(zone, new Date(midnight + days * DAY)));
  const same = around.every((offset) => offset === around[0]) ? around[0]! : null;
  if (offsets.size >= DAYS_HELD) offsets.clear();
  offsets.set(key, same);
  return same;
}

/** An instant of a wall clock in a zone; null where there is no such zone. */
function atZone(date: string, clock: string, zone: string): Date | null {
  const guess = Date.parse(`${date}T${clock}Z`);
  const whole = offsetOfDay(date, zone);
  if (whole !== null) return new Date(guess - whole * 60_000);
  // The offset of the guess may be that of the other side of a change; asked again, it is the one in force.
  const once = guess - tzOffset(zone, new Date(guess)) * 60_000;
  const instant = new Date(guess - tzOffset(zone, new Date(once)) * 60_000);
  return Number.isNaN(instant.getTime()) ? null : instant;
}

/**
 * Reads a date with or without a time into an instant. A time that names its own offset keeps it, another is of `zone`; a
 * date alone is noon there, which is the same day in the books whatever the season. Null where it is no date or no day
 * of the calendar.
 */
export function parseLooseInstant(text: string, order: DateOrder, zone: string): Date | null {
  if (text !== last.text || order !== last.order || zone !== last.zone) {
    last = { text, order, zone, instant: readInstant(text, order, zone) };
  }
  return last.instant === null ? null : new Date(last.instant);
}

/** The date read last: rows of one day follow each other. */
let last: { text: string; order: DateOrder; zone: string; instant: Date | null } = {
  text: '',
  order: 'YMD',
  zone: '',
  instant: null,
};

function readInstant(text: string, order: DateOrder, zone: string): Date | null {
  if (order === 'serial') {
    if (!isSerialDate(text)) return null;
    const [days, part] = [Math.floor(Number(text)), Number(text) % 1];
    const date = new Date(Date.UTC(1899, 11, 30 + days)).toISOString().slice(0, 10);
    const seconds = Math.round(part * 86_400);
    const clock = part === 0 ? '12:00:00' : new Date(seconds * 1000).toISOString().slice(11, 19);
    return atZone(date, clock, zone);
  }
  const pieces = datePieces(text);
  if (!pieces) return null;
  const { first, second, third, time } = pieces;
  const [year, month, day] =
    order === 'YMD' || first > 31
      ? [first, second, third]
      : order === 'DMY'
        ? [third, second, first]
        : [third, first, second];
  const full = year < 100 ? 2000 + year : year;
  const date = parsePlainDate(`${full}-${two(month)}-${two(day)}`);
  if (date === null) return null;
  if (time === '') return atZone(date, '12:00:00', zone);
  const clock = TIME.exec(time.trim());
  if (!clock) return null;
  let hour = Number(clock[1]);
  const half = clock[4]?.toLowerCase();
  if (half && (hour < 1 || hour > 12)) return null;
  if (half) hour = (hour % 12) + (half === 'pm' ? 12 : 0);
  if (hour > 23 || Number(clock[2]) > 59 || Number(clock[3] ?? 0) > 59) return null;
  const wall = `${two(hour)}:${clock[2]}:${clock[3] ?? '00'}`;
  const offset = clock[5];
  if (!offset) return atZone(date, wall, zone);
  const zoned =
    offset === 'Z' || offset === 'UTC'
      ? 'Z'
      : offset.includes(':')
        ? offset
        : `${offset.slice(0, 3)}:${offset.slice(3)}`;
  const instant = new Date(`${date}T${wall}${zoned}`);
  return Number.isNaN(instant.getTime()) ? null : instant;
}

import { z } from 'zod';
import { parsePlainDate, type PlainDate } from '@/core/calendar';

export const plainDateInput = z.custom<PlainDate>(
  (value) => typeof value === 'string' && parsePlainDate(value) !== null,
  'a date, year-month-day',
);

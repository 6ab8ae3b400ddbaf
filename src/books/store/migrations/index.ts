import { BOOKS_AND_LEDGER } from './0001-books';
import { MONEY_IN } from './0002-money-in';
import { SEALS } from './0003-seals';
import { CHANNELS_AND_MAP } from './0004-channels-and-map';
import { PROFILES } from './0005-profiles';
import { HELD } from './0006-held';
import { RECEIPT_SHAPES } from './0007-receipt-shapes';
import { CURRENCIES } from './0008-currencies';
import { FETCHING } from './0009-fetching';
import { READINGS_OF_RUNS } from './0010-readings-of-runs';
import { SAME_PAYERS } from './0011-same-payers';
import { OWED } from './0012-owed';
import { ASKED_AND_GIVEN } from './0013-asked-and-given';
import { MERGED_ITEMS } from './0014-merged-items';
import { STATEMENTS } from './0015-statements';
import { EXPLANATIONS } from './0016-explanations';
import { ACCOUNT_PARTS } from './0017-account-parts';
import { LINES_TOGETHER } from './0018-lines-together';
import { FEE_STEPS } from './0019-fee-steps';
import { NOT_OURS } from './0020-not-ours';
import { DOUBLED } from './0021-doubled';
import { BANK_NAMES } from './0022-bank-names';

/** Forward only: a file's user_version says how many of these it has had. */
export const MIGRATIONS: readonly string[] = [
  BOOKS_AND_LEDGER,
  MONEY_IN,
  SEALS,
  CHANNELS_AND_MAP,
  PROFILES,
  HELD,
  RECEIPT_SHAPES,
  CURRENCIES,
  FETCHING,
  READINGS_OF_RUNS,
  SAME_PAYERS,
  OWED,
  ASKED_AND_GIVEN,
  MERGED_ITEMS,
  STATEMENTS,
  EXPLANATIONS,
  ACCOUNT_PARTS,
  LINES_TOGETHER,
  FEE_STEPS,
  NOT_OURS,
  DOUBLED,
  BANK_NAMES,
];

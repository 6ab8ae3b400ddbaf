/** An ISO 4217 alphabetic code, upper case. */
export type Currency = string;

/** Minor units per major unit where it is not two decimals (ISO 4217, "minor unit" column). */
const DECIMALS: Readonly<Record<string, number>> = {
  BIF: 0,
  CLP: 0,
  DJF: 0,
  GNF: 0,
  ISK: 0,
  JPY: 0,
  KMF: 0,
  KRW: 0,
  PYG: 0,
  RWF: 0,
  UGX: 0,
  VND: 0,
  VUV: 0,
  XAF: 0,
  XOF: 0,
  XPF: 0,
  BHD: 3,
  IQD: 3,
  JOD: 3,
  KWD: 3,
  LYD: 3,
  OMR: 3,
  TND: 3,
};

/** How many decimals amounts of this currency are written with. */
export function decimalsOf(currency: Currency): number {
  return DECIMALS[currency] ?? 2;
}

export function isCurrencyCode(text: string): boolean {
  return /^[A-Z]{3}$/.test(text);
}

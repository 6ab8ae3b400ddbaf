import type { PayerDetails } from '@/books/payers/details';

export const NEW_PAYER: PayerDetails = {
  name: '',
  email: '',
  emails: [],
  address: '',
  country: '',
  taxNumber: '',
  terms: null,
  note: '',
  archived: false,
  externals: [],
};

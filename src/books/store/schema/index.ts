import type {
  ChannelTable,
  SiteTable,
  ChannelPostingTable,
  FeeStepTable,
  ChannelDraftTable,
  MapRuleTable,
  MapDefaultTable,
  PayerExternalTable,
  ProfileTable,
} from './channels';
import type {
  DoubledPartTable,
  DoubledTable,
  MatchLineTable,
  MatchPartTable,
  MatchTable,
  ProposalPartTable,
  ProposalTable,
  ProposalWayTable,
  StatementLineDetailTable,
  StatementLineTable,
  StatementProfileTable,
  StatementRuleTable,
  StatementTable,
} from './bank';
import type {
  ForgottenNameTable,
  ItemTable,
  PayerAliasTable,
  PayerTable,
  ReceiptChangeTable,
  ReceiptLineTable,
  ReceiptTenderTable,
  SummaryTable,
  RunTable,
  RunFindingTable,
  PayoutTable,
  ReceiptTable,
} from './documents';
import type { ChannelEventTable, ConnectionTable, FetchRunTable, MailTable, ReadingTable } from './fetching';
import type {
  AttachmentTable,
  CreditEntryTable,
  CreditNoteLineTable,
  CreditNoteTable,
  GiftBatchTable,
  HandoutTable,
  InvoiceDraftTable,
  InvoiceEntryTable,
  InvoiceLineTable,
  InvoiceTable,
  InvoiceVersionTable,
  MailAttachmentTable,
  NumberSeriesTable,
  PayLinkTable,
  PaymentTable,
  PlanRunTable,
  PlanTable,
  PledgeTable,
  PublicPageTable,
  RegistrationTable,
  SettlementTable,
  TermsTable,
} from './owed';
import type {
  BooksTable,
  AccountTable,
  TaxCodeTable,
  DimensionTable,
  DimensionValueTable,
  AccountDimensionTable,
  JournalLineDimensionTable,
  BankAccountTable,
  SealTable,
  JournalTable,
  JournalLineTable,
  AccountDayTable,
  RateTable,
  AuditTable,
} from './ledger';

export { CHANNEL_KINDS } from './channels';
export type * from './bank';
export type * from './channels';
export type * from './documents';
export type * from './fetching';
export type * from './ledger';
export type * from './owed';

/** One books file, table by table (migrations/ holds what each column means and refuses). */
export interface BooksSchema {
  books: BooksTable;
  account: AccountTable;
  tax_code: TaxCodeTable;
  item: ItemTable;
  payer: PayerTable;
  payer_alias: PayerAliasTable;
  forgotten_name: ForgottenNameTable;
  channel: ChannelTable;
  site: SiteTable;
  channel_posting: ChannelPostingTable;
  fee_step: FeeStepTable;
  channel_draft: ChannelDraftTable;
  dimension: DimensionTable;
  dimension_value: DimensionValueTable;
  account_dimension: AccountDimensionTable;
  journal_line_dimension: JournalLineDimensionTable;
  map_rule: MapRuleTable;
  map_default: MapDefaultTable;
  profile: ProfileTable;
  payer_external: PayerExternalTable;
  receipt_change: ReceiptChangeTable;
  summary: SummaryTable;
  bank_account: BankAccountTable;
  seal: SealTable;
  journal: JournalTable;
  journal_line: JournalLineTable;
  account_day: AccountDayTable;
  rate: RateTable;
  audit: AuditTable;
  run: RunTable;
  run_finding: RunFindingTable;
  invoice: InvoiceTable;
  invoice_line: InvoiceLineTable;
  invoice_entry: InvoiceEntryTable;
  credit_entry: CreditEntryTable;
  settlement: SettlementTable;
  terms: TermsTable;
  number_series: NumberSeriesTable;
  invoice_draft: InvoiceDraftTable;
  invoice_version: InvoiceVersionTable;
  handout: HandoutTable;
  credit_note: CreditNoteTable;
  credit_note_line: CreditNoteLineTable;
  attachment: AttachmentTable;
  mail_attachment: MailAttachmentTable;
  plan: PlanTable;
  plan_run: PlanRunTable;
  pay_link: PayLinkTable;
  payment: PaymentTable;
  gift_batch: GiftBatchTable;
  public_page: PublicPageTable;
  pledge: PledgeTable;
  registration: RegistrationTable;
  payout: PayoutTable;
  receipt: ReceiptTable;
  receipt_line: ReceiptLineTable;
  receipt_tender: ReceiptTenderTable;
  statement: StatementTable;
  statement_line_detail: StatementLineDetailTable;
  statement_profile: StatementProfileTable;
  statement_rule: StatementRuleTable;
  statement_line: StatementLineTable;
  match: MatchTable;
  match_line: MatchLineTable;
  match_part: MatchPartTable;
  connection: ConnectionTable;
  fetch_run: FetchRunTable;
  channel_event: ChannelEventTable;
  reading: ReadingTable;
  mail: MailTable;
  proposal: ProposalTable;
  proposal_way: ProposalWayTable;
  proposal_part: ProposalPartTable;
  doubled: DoubledTable;
  doubled_part: DoubledPartTable;
}

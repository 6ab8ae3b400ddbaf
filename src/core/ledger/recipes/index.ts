export * from './invoice-issued';
export * from './receipt-on-invoice';
export * from './paid-sale';
export * from './channel-fee';
export * from './refund';
export * from './chargeback';
export * from './deposit';
export * from './reversal';

'use server';

import { setFeeStep } from '@/books/channels/set-fee-step';
import { forgetBankName, keepBankName } from '@/books/matching/bank-names';
import { setDayCut } from '@/books/matching/day-cuts';
import { forgetLearnt, useLearntLag } from '@/books/matching/learnt';
import { change } from '../../../../server/change';

export const takeLagNow = async (books: string, input: unknown) => change(books, useLearntLag, input);
export const forgetLearntNow = async (books: string, input: unknown) => change(books, forgetLearnt, input);
export const keepBankNameNow = async (books: string, input: unknown) => change(books, keepBankName, input);
export const forgetBankNameNow = async (books: string, input: unknown) => change(books, forgetBankName, input);
export const setFeeStepNow = async (books: string, input: unknown) => change(books, setFeeStep, input);
export const setDayCutNow = async (books: string, input: unknown) => change(books, setDayCut, input);

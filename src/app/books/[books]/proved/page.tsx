import { bankProofs, clearingProofs, dailyBalances } from '@/books/proof/clearing';
import { railOf } from '@/books/today/rail';
import { addDays } from '@/core/calendar';
import { PageTabs } from '@/ui/frame/rail';
import { Empty } from '@/ui/parts/notice';
import { openBooks } from '../../../server/books';
import { PROVED_PAGES } from './pages';
import { BankProofView, ClearingProofView } from './proofs';

const DAYS_SHOWN = 75;

export default async function ProofsPage({ params }: { params: Promise<{ books: string }> }) {
  const { books: id } = await params;
  const { clearing, bank } = await openBooks(id).read(async (db) => {
    const { today } = await railOf(db, new Date());
    const proofs = await clearingProofs(db);
    return {
      clearing: await Promise.all(
        proofs.map(async (proof) => ({
          proof,
          days: await dailyBalances(db, proof.account, addDays(today, -DAYS_SHOWN)),
        })),
      ),
      bank: await bankProofs(db),
    };
  });
  return (
    <>
      <PageTabs pages={PROVED_PAGES} />
      <main>
        <div className="page-head">
          <h1>Does it prove?</h1>
        </div>
        {clearing.length === 0 ? (
          <Empty title="No channel yet">
            <p>A channel’s clearing account is proved here against what is in transit.</p>
          </Empty>
        ) : null}
        {clearing.map(({ proof, days }) => (
          <ClearingProofView key={proof.account} proof={proof} days={days} />
        ))}
        {bank.map((proof) => (
          <BankProofView key={proof.account} proof={proof} />
        ))}
      </main>
    </>
  );
}

import { findSweeps } from '@/core/matching/sweeps';
import { PLAIN_SHAPE, trialWorld, type TrialShape } from '@/standins/trial/world';
function run(shape: Partial<TrialShape>) {
  const world = trialWorld({ ...PLAIN_SHAPE, ...shape });
  const rows = [] as any[];
  let t = 0, n = 0, right: Record<string, number> = {}, wrong: Record<string, number> = {}, unknown = 0;
  const used = new Set<number>();
  for (const [c, ch] of world.channels.entries()) {
    const keep = [...ch.gross.keys()].filter((i) => ch.here[i]);
    const taken = Uint8Array.from(keep, (i) => (ch.told[i] ? 1 : 0));
    const cols = { count: keep.length, id: Int32Array.from(keep), day: Int32Array.from(keep, (i) => ch.day[i]!), net: Float64Array.from(keep, (i) => ch.gross[i]! - ch.fee[i]!), taken };
    const lines = world.lines.filter((l) => l.account === ch.account && !(l.payout >= 0 && world.payouts[l.payout]!.told));
    unknown += lines.filter((l) => l.payout >= 0 && world.payouts[l.payout]!.channel === c).length;
    const at = performance.now();
    const { sweeps, sequence, facts, near } = findSweeps(cols, lines, { shortestLag: 0, longestLag: 9, longestSpan: 6 });
    t += performance.now() - at;
    for (const s of sweeps) {
      const line = lines[s.line]!;
      let ok = line.payout >= 0;
      for (let b = s.from; ok && b < s.to; b++) if (ch.payout[keep[sequence.row[b]!]!] !== line.payout) ok = false;
      const m = s.margin >= 12 ? '12+' : s.margin >= 9 ? '09' : s.margin >= 7 ? '07' : s.margin >= 5 ? '05' : s.margin >= 3 ? '03' : '00';
      const key = `${s.between ? 'B' : s.joinedBefore && s.joinedAfter ? 'J2' : s.joinedBefore || s.joinedAfter ? 'J1' : 'J0'}/${m}`;
      (ok ? right : wrong)[key] = ((ok ? right : wrong)[key] ?? 0) + 1;
    }
    for (const s of near) {
      const line = lines[s.line]!;
      let ok = line.payout >= 0;
      const out = new Set(s.without);
      for (let b = s.from; ok && b < s.to; b++) if (!out.has(b) && ch.payout[keep[sequence.row[b]!]!] !== line.payout) ok = false;
      for (const b of s.late) if (ch.payout[keep[sequence.row[b]!]!] !== line.payout) ok = false;
      const key = `near ${s.without.length}/${s.late.length} ${s.byChance < 0.001 ? '<.001' : s.byChance < 0.01 ? '<.01' : s.byChance < 0.1 ? '<.1' : '>=.1'}`;
      (ok ? right : wrong)[key] = ((ok ? right : wrong)[key] ?? 0) + 1;
    }
    if (c === 0) console.log([...facts.lags].sort((a, b) => b[1] - a[1]).slice(0, 5).map(([d, s]) => `${d}:${s.toFixed(2)}`).join(' '), 'cuts', facts.dayCuts.toFixed(2), facts.learntFrom);
  }
  console.log(JSON.stringify(shape), 'unknown payouts', unknown, 'ms', t.toFixed(0));
  for (const k of [...new Set([...Object.keys(right), ...Object.keys(wrong)])].sort()) console.log('  ', k, right[k] ?? 0, wrong[k] ?? 0);
}
run({ density: 100, announced: 60, heldBack: 1, cutsWithinDay: true });
run({ density: 20, announced: 60, heldBack: 1, cutsWithinDay: true });
run({ density: 20, announced: 0, heldBack: 1, cutsWithinDay: false });
run({ density: 100, announced: 0, missing: 1, cutsWithinDay: true });
run({ density: 20, announced: 0, missing: 1, cutsWithinDay: true });
run({ density: 20, announced: 0, wrong: 1, cutsWithinDay: true });
run({ density: 20, announced: 0, equal: 100, cutsWithinDay: true });

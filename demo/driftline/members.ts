import type { Chance } from '@/standins/chance';

/** Somebody who gets a box each month. */
export interface Member {
  readonly no: string;
  readonly name: string;
  readonly email: string;
  readonly box: 'small' | 'large';
  /** Has signed no mandate yet, and pays by card. */
  readonly byCard: boolean;
}

const MEMBERS = 600;
const names = (text: string) => text.trim().split(/\s+/);
export const FIRST_NAMES = names(`
  Aoibh Brannagh Corrin Dervla Eamon Fiadh Grania Hazel Iarla Jory Keela Lorcan
  Merrin Nessa Odhran Piran Quilla Ronan Senara Tadg Una Veryan Wenna Ysella
`);
export const LAST_NAMES = names(`
  Ardle Brennock Carrow Dunmoor Eskmere Farrow Gweal Harnett Inver Jessop Kilgarth Lannon Morvah
  Nance Ormsby Penrice Quilty Rossan Skerry Trevail Ulick Vashon Wicken Yelland Zennor
`);

/** All members, each under a name of their own. */
export function membersOf(chance: Chance): Member[] {
  return Array.from({ length: MEMBERS }, (_, index) => {
    // Each pair of names once, so that nobody is taken for somebody else.
    const last = (index * 7 + Math.floor(index / FIRST_NAMES.length)) % LAST_NAMES.length;
    const name = `${FIRST_NAMES[index % FIRST_NAMES.length]} ${LAST_NAMES[last]}`;
    return {
      no: `M${1000 + index}`,
      name,
      email: `${name.toLowerCase().replace(/[^a-z]+/g, '.')}.${index}@post.example`,
      box: chance.in100(62) ? 'small' : 'large',
      byCard: index % 50 === 17,
    };
  });
}

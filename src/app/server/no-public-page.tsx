import 'server-only';
import { PublicWord } from '@/ui/public/public-frame';
import { cameFrom, tooOften } from './rate-limit';

/** What stands at an address that no page has; who tries many is told to wait. */
export async function NoPublicPage({ title, look }: { readonly title: string; readonly look: string }) {
  const often = await tooOften('wrong', await cameFrom());
  return (
    <PublicWord name="" title={often ? 'This page was asked for too often' : title}>
      <p>{often ? 'Wait a minute.' : look}</p>
    </PublicWord>
  );
}

'use client';

import { useRouter } from 'next/navigation';
import { useEffect, useState } from 'react';

const EVERY = 1_500;
const LOOKS = 40;

/** Looks again for a while, until what is waited for has come and this is not drawn any more. */
export function WaitFor({ children }: { children: string }) {
  const router = useRouter();
  const [looked, setLooked] = useState(0);
  useEffect(() => {
    if (looked >= LOOKS) return;
    const timer = setTimeout(() => {
      router.refresh();
      setLooked(looked + 1);
    }, EVERY);
    return () => clearTimeout(timer);
  }, [looked, router]);
  return (
    <p className="notice info" role="status">
      {looked < LOOKS ? children : `${children} It takes longer than usual: load the page again later.`}
    </p>
  );
}

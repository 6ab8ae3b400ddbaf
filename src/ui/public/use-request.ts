'use client';

import { useState } from 'react';

/** The id of a form: sent off twice, or again after going back to it, it is known to be the same. */
export function useRequest(): string {
  const [id] = useState(() => crypto.randomUUID());
  return id;
}

'use client';

import {
  BarController,
  BarElement,
  CategoryScale,
  Chart,
  LinearScale,
  LineController,
  LineElement,
  PointElement,
  Tooltip,
} from 'chart.js';
import { useEffect, useState } from 'react';

Chart.register(
  BarController,
  BarElement,
  CategoryScale,
  LinearScale,
  LineController,
  LineElement,
  PointElement,
  Tooltip,
);
Chart.defaults.font.family = "'IBM Plex Sans', Arial, sans-serif";
Chart.defaults.font.size = 11;
Chart.defaults.animation = false;

export interface ChartColours {
  readonly ink: string;
  readonly line: string;
  readonly main: string;
  readonly second: string;
  readonly late: string;
}

/** The theme's colours as the page has them now; null until it is on the screen. */
export function useChartColours(): ChartColours | null {
  const [colours, setColours] = useState<ChartColours | null>(null);
  useEffect(() => {
    const read = () => {
      const style = getComputedStyle(document.documentElement);
      const of = (name: string) => style.getPropertyValue(name).trim();
      setColours({
        ink: of('--ink-soft'),
        line: of('--line'),
        main: of('--aubergine'),
        second: of('--slate'),
        late: of('--yolk'),
      });
    };
    read();
    const scheme = window.matchMedia('(prefers-color-scheme: dark)');
    scheme.addEventListener('change', read);
    return () => scheme.removeEventListener('change', read);
  }, []);
  return colours;
}

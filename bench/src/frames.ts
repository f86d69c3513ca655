/** Records the time between frames in the page. */
export const RECORD = `
  window.__frames = [];
  let last = performance.now();
  const tick = (now) => { window.__frames.push(now - last); last = now; window.__raf = requestAnimationFrame(tick); };
  window.__raf = requestAnimationFrame(tick);
`;

/** Says how many frames came in time. @returns whether 95 % did */
export function report(name: string, frames: number[]): boolean {
  const sorted = [...frames].sort((a, b) => a - b);
  const at = (q: number): number => sorted[Math.min(sorted.length - 1, Math.floor(sorted.length * q))]!;
  const under = (100 * frames.filter((f) => f < 20).length) / frames.length;
  console.log(
    `${name}: ${frames.length} frames, median ${at(0.5).toFixed(1)} ms, 95th ${at(0.95).toFixed(1)} ms, worst ${at(1).toFixed(1)} ms, under 20 ms: ${under.toFixed(1)} %   bound: 95 %`,
  );
  return under >= 95;
}

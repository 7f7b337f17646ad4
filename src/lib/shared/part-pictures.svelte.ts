import { SvelteMap } from 'svelte/reactivity';

/** Small pictures of parts, by geometry key: asked for together, not one by one. Browser only. */
const urls = new SvelteMap<string, string>();
const asked = new Set<string>();
let waiting: string[] = [];

/** At most so many in one request. */
const BUNDLE = 60;

/** The picture of a part as a URL, once it is there. */
export function partPicture(key: string | undefined): string | undefined {
  if (key === undefined) return undefined;
  if (!asked.has(key)) {
    asked.add(key);
    waiting.push(key);
    if (waiting.length === 1) setTimeout(fetchWaiting, 10);
  }
  return urls.get(key);
}

function fetchWaiting(): void {
  const keys = waiting;
  waiting = [];
  for (let i = 0; i < keys.length; i += BUNDLE) void fetchBundle(keys.slice(i, i + BUNDLE));
}

async function fetchBundle(keys: readonly string[]): Promise<void> {
  try {
    const response = await fetch(`/api/parts?of=${keys.join(',')}`);
    if (!response.ok) throw new Error(`status ${response.status}`);
    const pictures = (await response.json()) as Record<string, string>;
    for (const [key, svg] of Object.entries(pictures)) urls.set(key, `data:image/svg+xml;charset=utf-8,${encodeURIComponent(svg)}`);
  } catch {
    // Asked for again when they are in sight again.
    for (const key of keys) asked.delete(key);
  }
}

import { existsSync, readFileSync } from 'node:fs';
import { join } from 'node:path';

interface Piece {
  file: string;
  css?: string[];
  imports?: string[];
}
/** The script of each page that is worth having before the house's own script has run, by the beginning of its file's name. */
const pages = {
  shoot: 'shoots/ShootScreen.tsx',
  bench: 'bench/BenchScreen.tsx',
  ground: 'ground/GroundScreen.tsx',
  shelf: 'shelf/ShelfScreen.tsx',
};
export type PageName = keyof typeof pages;

/** For each page, the header that has its scripts fetched beside the house's own; empty where the build says nothing of it. */
export function pageLinks(web: string): Record<PageName, string> {
  const listed = join(web, 'pages.json'),
    pieces = existsSync(listed) ? (JSON.parse(readFileSync(listed, 'utf8')) as Record<string, Piece>) : {},
    house = new Set(filesOf(pieces, 'index.html', new Set()));
  const links = Object.entries(pages).map(([name, file]) => [
    name,
    filesOf(pieces, `src/${file}`, new Set())
      .filter((f) => !house.has(f))
      .map((f) => `</${f}>; rel=modulepreload`)
      .join(', '),
  ]);
  return Object.fromEntries(links) as Record<PageName, string>;
}
/** A piece and all it imports, each once. */
function filesOf(pieces: Record<string, Piece>, name: string, seen: Set<string>): string[] {
  const piece = pieces[name];
  if (!piece || seen.has(name)) return [];
  seen.add(name);
  return [piece.file, ...(piece.imports ?? []).flatMap((i) => filesOf(pieces, i, seen))];
}

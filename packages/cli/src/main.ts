import '@dyepot/server/src/filmEngine.ts';
export {};

const usage = `Usage:
  dyepot serve [--port N] [--listen ADDRESS (--tls-cert FILE --tls-key FILE | --trust-proxy)]
                [--queue redis://HOST:PORT]
  dyepot work --queue redis://HOST:PORT --data FOLDER [--threads N]
  dyepot people list [--json]
  dyepot people add NAME [--role look|change]
  dyepot people password|remove NAME
  dyepot people role NAME --role look|change
  dyepot inspect FILE… [--json]
  dyepot render FILE… --look LOOK|none --out DIR [--format jpeg|tiff|png|webp|avif] [--depth 8|16]
                [--space srgb|p3|oprgb|rec2020|linear] [--size LONGEDGE] [--quality N] [--groundwork FILE|DIR]
                [--local FILE] [--repairs FILE|DIR]
                [--replace] [--doubtful] [--json]
  dyepot mask FILE --out OUT.png (--look LOOK --step ID | --find sky|foliage|skin|lights|figure:X,Y,W,H) [--groundwork FILE]
                [--local FILE] [--json]
  dyepot match FILE… --anchor FILE [--by statistics|neutral|patch|chart] [--at X,Y] [--groundwork FILE|DIR]
                [--write DIR] [--json]
  dyepot evenness FILE… [--look LOOK] [--groundwork FILE|DIR] [--tolerance N] [--pdf OUT.pdf] [--json]
  dyepot merge FILE FILE… --out OUT.dng [--replace] [--json]
  dyepot chart FILE [--json]
  dyepot dust FILE… [--least N] [--write DIR] [--json]
  dyepot balance FILE [--at X,Y [--size N]] [--json]
  dyepot probe LOOK R G B [--json]
  dyepot bake LOOK --out FILE.cube|.png|.tif|.clf|.cc|.ccc|.cdl [--size N] [--input srgb|linear|acescct]
                [--steps ID,ID] [--json]
  dyepot verify RECORD [--folder DIR] [--json]
  dyepot look pack LOOK|FOLDER… --out FILE.dyelook [--replace]
  dyepot look unpack FILE.dyelook --out DIR [--replace]
  dyepot look check LOOK [--json]
  dyepot look diff A B [--json]
  dyepot look blend A B [--by 0.5] --out FILE.json [--replace]
  dyepot look near LOOK DIR [--json]
  dyepot stock --list [--json]
  dyepot stock NAME|FILE [--expose FROM:TO:STEP] [--wedge OUT.tif] [--json]

serve answers this machine alone; with --listen other machines too, for people who have a name and a password (docs/away.md).
With --queue the frames of imports and deliveries are done by any number of workers (docs/farm.md).
LOOK is a look file (.json), or a lookup table (.cube, Hald .png or .tif, .clf, .cc, .ccc, .cdl); none is the
neutral response. R G B is linear Rec.2020 for a look; for a table the values as given.
--local takes a frame's own steps, as docs/look.md describes them. mask writes where a step acts as a grey picture.
X,Y are fractions of the picture from its top left; N is the side of the sampled square in pixels.
match proposes groundwork under which frames match the anchor, and with --write keeps it as DIR/NAME.groundwork.json;
render takes each frame's own from such a folder. evenness groups frames by their light and tells how far each is from
its group's most typical frame. --at is a place of the anchor.
merge lays exposures of one view on each other and writes one linear DNG.
dust tells specks of dust in each file, or, of several, those they show at one place of the sensor; with --write it keeps
DIR/NAME.repairs.json, which render takes as --repairs.
Without --at, balance judges the whole picture.
A .dyelook holds looks with their stocks, tables and pictures; unpacked it is a folder each, as text. verify checks delivered
files against their record. look check ends with 1 where something is weak.
render replaces files of the same name only if Dyepot made them, or with --replace. A raw that may not be whole is
rendered only with --doubtful; the exit status is then 3.`;

type Command = (args: string[]) => Promise<number>;
/** Each is loaded when it is asked for: the server is by far the heaviest. */
const commands: Record<string, () => Promise<Command>> = {
  serve: async () => (await import('./serve.ts')).serve,
  work: async () => (await import('./work.ts')).work,
  people: async () => (await import('./people.ts')).managePeople,
  inspect: async () => (await import('./inspect.ts')).inspect,
  render: async () => (await import('./render.ts')).render,
  mask: async () => (await import('./mask.ts')).mask,
  merge: async () => (await import('./merge.ts')).merge,
  match: async () => (await import('./match.ts')).match,
  evenness: async () => (await import('./evenness.ts')).evenness,
  chart: async () => (await import('./chart.ts')).chart,
  dust: async () => (await import('./dust.ts')).dust,
  balance: async () => (await import('./balance.ts')).balance,
  probe: async () => (await import('./probe.ts')).probe,
  bake: async () => (await import('./bake.ts')).bake,
  verify: async () => (await import('./verify.ts')).verify,
  look: async () => (await import('./look.ts')).look,
  stock: async () => (await import('./stock.ts')).stock,
};

const [name, ...rest] = process.argv.slice(2);
const command = name !== undefined && Object.hasOwn(commands, name) ? commands[name] : undefined;
if (!command) {
  const asked = name === 'help' || name === '--help';
  (asked ? process.stdout : process.stderr).write(
    `${name === undefined || asked ? '' : `dyepot: there is no command “${name}”\n`}${usage}\n`,
  );
  process.exitCode = asked ? 0 : 2;
} else {
  command()
    .then((run) => run(rest))
    .then(
      (code) => {
        process.exitCode = code;
      },
      (error: unknown) => {
        process.stderr.write(`dyepot: ${error instanceof Error ? error.message : String(error)}\n`);
        process.exitCode = 2;
        // whatever was left open does not hold the command
        setTimeout(() => process.exit(), 1000).unref();
      },
    );
}

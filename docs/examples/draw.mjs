// node draw.mjs ADDRESS FILE RECIPE FOLDER: drops a file, has it drawn by a recipe, and fetches PDF, parts list and findings.
import { mkdir, readFile, writeFile } from 'node:fs/promises';
import { basename, join } from 'node:path';

const [address, file, recipe, folder] = process.argv.slice(2);

/** Asks the server; its sentence is the error. */
async function ask(path, options) {
  const answer = await fetch(`${address}/api/${path}`, options);
  if (answer.ok) return answer;
  throw new Error((await answer.json()).error.message);
}

const form = new FormData();
form.append('file', new Blob([await readFile(file)]), basename(file));
form.append('recipe', recipe);
const { id } = await (await ask('jobs', { method: 'POST', body: form })).json();

let job;
do {
  await new Promise((r) => setTimeout(r, 500));
  job = await (await ask(`jobs/${id}`)).json();
  if (job.state === 'failed') throw new Error(job.errorText);
} while (job.state !== 'ready');
for (const slot of job.slots.filter((s) => !s.filled)) console.log(`Left out: ${slot.sheet}, ${slot.name}. ${slot.why}`);

await mkdir(folder, { recursive: true });
for (const name of ['drawing.pdf', 'parts-list.csv', 'findings.json']) {
  await writeFile(join(folder, name), Buffer.from(await (await ask(`jobs/${id}/files/${name}`)).arrayBuffer()));
  console.log(join(folder, name));
}

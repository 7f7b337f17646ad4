/** What a JSON file holds. @param what it should be, for people: “recipe” @throws Error with a sentence for the user */
export async function readJsonFile(file: File, what: string): Promise<unknown> {
  try {
    return JSON.parse(await file.text());
  } catch {
    throw new Error(`${file.name} is no ${what}: it is not JSON.`);
  }
}

/** What the project that is opened next begins with: files to import, what its left column offers, whether it plays. */
interface Opening {
  files: File[];
  offersRecipes: boolean;
  plays: boolean;
}

let next: Opening = { files: [], offersRecipes: false, plays: false };

export function openNextWith(opening: Partial<Opening>): void {
  next = { ...next, ...opening };
}

/** What was left for this project, once. */
export function takeOpening(): Opening {
  const taken = next;
  next = { files: [], offersRecipes: false, plays: false };
  return taken;
}

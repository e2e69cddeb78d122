/**
 * What the program says, word for word, stands in `core/testing/record`: nothing of it may change without being seen.
 * Whether it is right is for the other tests. When a change is meant, `npm run record` writes the files anew, and the
 * difference is read line by line before it is committed.
 */
export const recorded = (name: string): string => new URL(`record/${name}`, import.meta.url).pathname

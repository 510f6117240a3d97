/** Keys of a family of answers: whoever forgets the family, or the beginning of a longer key, forgets all that begin with it. */
const family =
  (name: string) =>
  (...rest: readonly unknown[]): readonly unknown[] => [name, ...rest];

/**
 * By what answers of the server are kept, in families that change together: what the stream of events tells of a matter is forgotten by
 * its family. Written nowhere else (a lint rule), so that what is asked under a key and what is forgotten under it cannot differ.
 */
export const keys = {
  accounts: family("accounts"),
  countries: family("countries"),
  designs: family("designs"),
  details: family("details"),
  documents: family("documents"),
  drop: family("drop"),
  envelopes: family("envelopes"),
  functions: family("functions"),
  handbook: family("handbook"),
  jobs: family("jobs"),
  lists: family("lists"),
  look: family("look"),
  mailFolders: family("mail-folders"),
  personFile: family("person-file"),
  pictures: family("pictures"),
  postOffice: family("post-office"),
  preview: family("preview"),
  printQueues: family("print-queues"),
  printed: family("printed"),
  printers: family("printers"),
  removal: family("removal"),
  returns: family("returns"),
  settings: family("settings"),
  sheet: family("sheet"),
  starters: family("starters"),
  stock: family("stock"),
  stocks: family("stocks"),
  suppressions: family("suppressions"),
  survey: family("survey"),
  timeZones: family("time-zones"),
};

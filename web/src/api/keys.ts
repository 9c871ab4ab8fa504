/** A key of the cache: a name, then what it is about, from the whole to the part. A shorter key names all below it. */
function under(name: string) {
  return (...parts: readonly unknown[]) => [name, ...parts] as const;
}

/** Every key of the cache. `keys.posts(blog)` names all lists of posts of a blog, `keys.posts(blog, filter)` one. */
export const keys = {
  session: under("session"),
  account: under("account"),
  openapi: under("openapi"),
  tokens: under("tokens"),
  people: under("people"),
  invitation: under("invitation"),
  notices: under("notices"),
  names: under("names"),
  audit: under("audit"),
  blogs: under("blogs"),
  today: under("today"),
  blog: under("blog"),
  campaigns: under("campaigns"),
  campaign: under("campaign"),
  campaignsBySource: under("campaigns-by-source"),
  libraryUses: under("library-uses"),
  scheduleTimes: under("schedule-times"),
  timeZones: under("time-zones"),
  defaults: under("defaults"),
  layouts: under("layouts"),
  templateVariables: under("template-variables"),
  sources: under("sources"),
  readers: under("readers"),
  reader: under("reader"),
  page: under("page"),
  source: under("source"),
  seenCategories: under("seen-categories"),
  samples: under("samples"),
  proof: under("proof"),
  runs: under("runs"),
  run: under("run"),
  decision: under("decision"),
  checkup: under("checkup"),
  posts: under("posts"),
  post: under("post"),
  comments: under("comments"),
} as const;

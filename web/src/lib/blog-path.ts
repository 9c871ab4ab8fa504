/** Addresses inside the desk of a blog. */
export const desk = {
  today: (blog: string) => `/desk/${blog}/today`,
  campaigns: (blog: string) => `/desk/${blog}/campaigns`,
  newCampaign: (blog: string, ...sources: string[]) => {
    const chosen = new URLSearchParams(sources.map((source) => ["source", source])).toString();
    return `/desk/${blog}/campaigns/new${chosen && `?${chosen}`}`;
  },
  newCampaignOn: (blog: string, label: string) =>
    `/desk/${blog}/campaigns/new?${new URLSearchParams({ label })}`,
  bench: (blog: string, slug: string) => `/desk/${blog}/campaigns/${slug}`,
  replay: (blog: string, slug: string) => `/desk/${blog}/campaigns/${slug}/replay`,
  runs: (blog: string) => `/desk/${blog}/runs`,
  decisions: (blog: string, filter: { day?: string; outcome?: string; campaign?: string } = {}) => {
    const query = new URLSearchParams(filter).toString();
    return `/desk/${blog}/decisions${query && `?${query}`}`;
  },
  run: (blog: string, id: number) => `/desk/${blog}/runs/${id}`,
  posts: (blog: string, narrowed: { corrected?: string } = {}) => {
    const query = new URLSearchParams(narrowed).toString();
    return `/desk/${blog}/posts${query && `?${query}`}`;
  },
  reads: (blog: string) => `/desk/${blog}/reads`,
  newPost: (blog: string) => `/desk/${blog}/posts/new`,
  editPost: (blog: string, id: number) => `/desk/${blog}/posts/${id}/edit`,
  post: (blog: string, id: number) => `/desk/${blog}/posts/${id}`,
  comments: (blog: string) => `/desk/${blog}/comments`,
  sources: (blog: string, narrowed: { search?: string; health?: string; sort?: string } = {}) => {
    const query = new URLSearchParams(narrowed).toString();
    return `/desk/${blog}/sources${query && `?${query}`}`;
  },
  addSources: (blog: string) => `/desk/${blog}/sources/add`,
  feedLists: (blog: string) => `/desk/${blog}/feed-lists`,
  feedList: (blog: string, number: number) => `/desk/${blog}/feed-lists/${number}`,
  review: (blog: string) => `/desk/${blog}/review`,
  lists: (blog: string) => `/desk/${blog}/word-lists`,
  readers: (blog: string) => `/desk/${blog}/readers`,
  newReader: (blog: string, url = "") =>
    `/desk/${blog}/readers/new${url && `?${new URLSearchParams({ url })}`}`,
  reader: (blog: string, key: string, scripts = false) =>
    `/desk/${blog}/readers/${key}${scripts ? "?scripts=run" : ""}`,
  connections: (blog: string, platform = "") =>
    `/desk/${blog}/connections${platform && `?${new URLSearchParams({ platform })}`}`,
  services: (blog: string) => `/desk/${blog}/services`,
  languages: (blog: string) => `/desk/${blog}/languages`,
  blogFile: (blog: string) => `/desk/${blog}/blog-file`,
  retention: (blog: string) => `/desk/${blog}/retention`,
  edition: (blog: string, post: number, language: string) =>
    `/desk/${blog}/posts/${post}/editions/${language}`,
  newPlatformSource: (blog: string, platform = "") =>
    `/desk/${blog}/platform-sources/new${platform && `?${new URLSearchParams({ platform })}`}`,
  pictures: (blog: string) => `/desk/${blog}/pictures`,
  recordings: (blog: string) => `/desk/${blog}/recordings`,
  offers: (blog: string, state = "") =>
    `/desk/${blog}/offers${state && `?${new URLSearchParams({ state })}`}`,
  offer: (blog: string, number: number) => `/desk/${blog}/offers/${number}`,
  offerClicks: (blog: string) => `/desk/${blog}/offers/clicks`,
  offerRules: (blog: string) => `/desk/${blog}/offers/rules`,
  names: (blog: string, kind: string) => `/desk/${blog}/names/${kind}`,
  settings: (blog: string) => `/desk/${blog}/settings`,
  people: (blog: string) => `/desk/${blog}/people`,
  takedowns: (blog: string) => `/desk/${blog}/takedowns`,
  look: (blog: string) => `/desk/${blog}/look`,
  audit: (blog: string) => `/desk/${blog}/audit`,
  api: (blog: string) => `/desk/${blog}/api`,
  account: (blog: string) => `/desk/${blog}/account`,
  source: (blog: string, key: string) => `/desk/${blog}/sources/${key}`,
};

/** The address of a post as readers of the blog see it. */
export function publicPost(blog: string, slug: string): string {
  return `/blog/${blog}/${encodeURIComponent(slug)}/`;
}

export function publicBlog(blog: string): string {
  return `/blog/${blog}/`;
}

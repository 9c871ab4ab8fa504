/** Sources and answers about them, for tests. */

import type { Checked, Source } from "@/api/sources";

export const LIST = "GET /api/blogs/{blog}/sources";
export const ONE = "GET /api/blogs/{blog}/sources/{key}";
export const USES = "GET /api/blogs/{blog}/campaigns-by-source";
export const CHECK = "POST /api/blogs/{blog}/sources/check";
export const ADD = "POST /api/blogs/{blog}/new-source";

export const CLUB: Source = {
  key: "club",
  url: "https://club.example/feed",
  title: "Club",
  link: "https://club.example/",
  format: "RSS 2.0",
  items: 40,
  days: [0, 1, 2],
  read_at: "2026-11-24T12:00:00Z",
  read_error: "",
  cause: "",
  read_detail: "",
  right: "full",
  right_said: true,
  right_words: 100,
  attribution: "",
  keyword: "",
  reads_pages: false,
  full_text_words: 0,
  text_reader: "",
  text_selector: "",
  rendered: false,
  rendered_hosts: [],
  health: "ok",
  health_data: {},
  failing_since: null,
  remedy: "",
  next_read_at: null,
  labels: [],
  paused: false,
  any_certificate: false,
  former_url: "",
} as unknown as Source;

export const FACTS = {
  items: 40,
  fields: { title: 40 },
  words: 120,
  categories: [{ name: "Sky", count: 30 }],
  hashtags: [],
};

export const FEED = {
  address: "https://club.example/feed",
  url: "https://club.example/feed",
  title: "Club",
  format: "RSS 2.0",
  items: 2,
  milliseconds: 40,
  samples: [],
  fields: {},
  warnings: [],
  leads_to: [],
  known_as: "",
  error: "",
  detail: "",
} as unknown as Checked;

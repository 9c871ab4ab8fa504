import { useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { useNavigate, useParams } from "react-router";
import { blogsQuery } from "@/api/blogs";
import { type PostValues, postQuery, postValuesQuery } from "@/api/posts";
import { useMay } from "@/api/useRole";
import { Empty } from "@/components/Empty";
import { ErrorNote } from "@/components/ErrorNote";
import { Loading } from "@/components/Loading";
import { desk } from "@/lib/blog-path";
import { Editor } from "./Editor";

const NOTHING: PostValues = {
  version: 0,
  edited: [],
  title: "",
  slug: "",
  excerpt: "",
  body: "",
  description: "",
  lead_url: "",
  lead_alt: "",
  fields: [],
  categories: [],
  tags: [],
  byline: "",
  kind: "article",
  pinned: false,
  comments: false,
  visibility: "public",
  pass_phrase: "",
  language: "",
  canonical: "",
  date: new Date().toISOString(),
};

/** The editor of a post; without a number, of a new one. */
export default function EditPost() {
  const { blog = "", id } = useParams();
  const number = Number(id ?? 0);
  const navigate = useNavigate();
  const post = useQuery({ ...postQuery(blog, number), enabled: number > 0 });
  const values = useQuery({ ...postValuesQuery(blog, number), enabled: number > 0 });
  // Navigates once the editor has no unsaved edits, so that the guard does not ask.
  const [made, setMade] = useState(0);
  useEffect(() => {
    if (made && !number) navigate(desk.editPost(blog, made), { replace: true });
  }, [made, number, blog, navigate]);
  const editor = useMay()("editor");
  const known = useQuery(blogsQuery).data !== undefined;
  if (known && !editor)
    return (
      <Empty
        title="For editors"
        text="Editors and owners of the blog write and change posts. Ask one of them."
      />
    );
  const error = post.error ?? values.error;
  if (error) return <ErrorNote error={error} onRetry={values.refetch} />;
  const saved = number ? values.data : NOTHING;
  if (!saved) return <Loading what="the post" />;
  return (
    <Editor
      key={number}
      blog={blog}
      id={number}
      post={post.data}
      saved={saved}
      onSaved={(post) => setMade(post.id)}
    />
  );
}

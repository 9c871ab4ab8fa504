import { useState } from "react";
import { useParams } from "react-router";
import { blogFileAddress, type Comparison, compareBlogFile } from "@/api/blog-file";
import { useChange } from "@/api/useChange";
import { useMay } from "@/api/useRole";
import { Empty } from "@/components/Empty";
import { FormError } from "@/components/FormError";
import { Head } from "@/components/Head";
import { Loading } from "@/components/Loading";
import { Part } from "@/components/Part";
import { buttonLook } from "@/ui/Button";
import { FileButton } from "@/ui/FileButton";
import { Scroll } from "@/ui/Scroll";
import { ComparedFile } from "./ComparedFile";

/** In bytes. */
const LARGEST = 5_000_000;

interface Read {
  name: string;
  yaml: string;
  comparison: Comparison;
}

/** All rules and sources of the blog as one file: taken out, compared, brought in. */
export default function BlogFile() {
  const { blog = "" } = useParams();
  const editor = useMay()("editor");
  const [read, setRead] = useState<Read | null>(null);
  const comparing = useChange(
    async ({ name, yaml }: { name: string; yaml: () => Promise<string> }) => {
      const text = await yaml();
      return { name, yaml: text, comparison: await compareBlogFile(blog, text) };
    },
    { onDone: setRead },
  );
  function compare(file: File) {
    const yaml = async () => {
      if (file.size > LARGEST) throw new Error(`${file.name} is larger than 5 MB. Bring it in in two parts.`);
      return file.text();
    };
    comparing.mutate({ name: file.name, yaml });
  }
  return (
    <>
      <Head
        title="Blog file"
        facts={<span className="text-ink3">all rules and sources of the blog in one file</span>}
      />
      <Scroll label="Blog file" className="min-h-0 flex-1 p-5">
        {!editor && (
          <Empty title="For editors" text="Editors and owners of the blog take its rules out and in." />
        )}
        {editor && (
          <div className="mx-auto max-w-4xl space-y-4">
            <Part
              title="Take out"
              text="Campaigns with their schedules, sources with their rights, page readers, word lists, tables and the rules of new campaigns, as YAML: for another blog, for version control, or as a copy before a large change. Keys, passwords and posts are not in it."
            >
              <a className={buttonLook("primary")} href={blogFileAddress(blog)} download>
                {blog}.yaml
              </a>
            </Part>
            <Part
              title="Bring in"
              text="The file is compared with the blog first, part by part, and you choose what comes. What only the blog has stays."
            >
              <FileButton label="Blog file as YAML" accept=".yaml,.yml,application/yaml" onFile={compare}>
                Choose a file
              </FileButton>
              <FormError error={comparing.error} />
            </Part>
            {comparing.isPending && <Loading what="the differences" rows={5} />}
            {read && !comparing.isPending && (
              <ComparedFile
                key={read.comparison.stamp}
                blog={blog}
                {...read}
                onAgain={() => comparing.mutate({ name: read.name, yaml: async () => read.yaml })}
                onClose={() => setRead(null)}
              />
            )}
          </div>
        )}
      </Scroll>
    </>
  );
}

/** A page of the blog in a frame without scripts. */
export function Preview({ html, title }: { html: string; title: string }) {
  return (
    <iframe
      title={`Preview: ${title}`}
      sandbox="allow-same-origin"
      srcDoc={html}
      className="h-full min-h-[420px] w-full border-0 bg-white"
    />
  );
}

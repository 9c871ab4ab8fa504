import { render, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { generateHTML, generateJSON } from "@tiptap/core";
import { describe, expect, it } from "vitest";
import { BodyEditor } from "./BodyEditor";
import { EXTENSIONS } from "./extensions";
import { lost } from "./fidelity";

const through = (html: string) => generateHTML(generateJSON(html, EXTENSIONS), EXTENSIONS);

describe("the text view", () => {
  it.each([
    '<p>A <a href="https://club.example/">link</a>, <strong>bold</strong> and <em>not</em>.</p>',
    '<p lang="de" dir="ltr" title="Hinweis">Ein <mark>Wort</mark>, H<sub>2</sub>O, <abbr title="x">e</abbr></p>',
    "<h2>Two</h2><h3>Three</h3><h6>Six</h6><hr>",
    '<ul><li><p>one</p></li></ul><ol start="3"><li><p>two</p></li></ol>',
    "<blockquote><p>Said</p></blockquote><pre><code>x = 1</code></pre>",
    '<figure><img src="https://a.example/1.jpg" alt="Dome"><figcaption>The dome</figcaption></figure>',
    '<table><tbody><tr><th scope="col">A</th></tr><tr><td colspan="2">B</td></tr></tbody></table>',
    '<video src="https://a.example/f.mp4" controls=""></video>',
    "<dl><dt>Light</dt><dd>What we see by</dd></dl><details><summary>More</summary><p>Text</p></details>",
    '<p>Before <img src="https://a.example/1.jpg" alt="Dome" width="40"> after<br>the break</p>',
    "<div><p>In a division</p></div>",
    "<p><kbd>J</kbd> <samp>out</samp> <small>fine</small> <q>said</q> <time>noon</time> <var>x</var> <cite>Book</cite></p>",
  ])("loses nothing of %s", (html) => {
    expect(lost(html, through(html))).toEqual([]);
  });

  it("keeps pictures, tables and the like letter for letter", () => {
    const figure =
      '<figure><img src="https://a.example/1.jpg" alt="Dome" width="40"><figcaption>The dome</figcaption></figure>';
    expect(through(`<p>a</p>${figure}<p>b</p>`)).toBe(`<p>a</p>${figure}<p>b</p>`);
  });

  it("writes links as they were given", () => {
    const html = '<p><a href="https://club.example/">link</a></p>';
    expect(through(html)).toBe(html);
  });
});

describe("the body", () => {
  it("that the text view would spoil is edited as source, and is told so", async () => {
    const told: string[] = [];
    render(
      <BodyEditor
        blog="b"
        body="<address>Cold Lantern Hill</address>"
        onChange={(body) => told.push(body)}
      />,
    );
    expect(screen.getByRole("status").textContent).toContain("address");
    await userEvent.click(screen.getByRole("radio", { name: "Text" }));
    expect(screen.getByLabelText("Source of the body")).toBeTruthy();
    await userEvent.type(screen.getByLabelText("Source of the body"), "!");
    expect(told.at(-1)).toBe("<address>Cold Lantern Hill</address>!");
  });

  it("says how many words it has", () => {
    render(
      <BodyEditor
        blog="b"
        body="<address>a</address><p>One two</p><p>three</p>"
        onChange={() => undefined}
      />,
    );
    expect(screen.getByText("4 words")).toBeTruthy();
  });
});

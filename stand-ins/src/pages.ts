const ENTITIES: Readonly<Record<string, string>> = {
  "&": "&amp;",
  "<": "&lt;",
  ">": "&gt;",
  '"': "&quot;",
  "'": "&#39;",
};
export const escaped = (text: string): string => text.replace(/[&<>"']/g, (sign) => ENTITIES[sign] ?? sign);

/**
 * A page of a made-up service. `body` is markup; whatever it holds of others is escaped already.
 */
export const pageText = (title: string, body: string): string => `<!doctype html>
<html lang="en">
<head>
<meta charset="utf-8">
<meta name="viewport" content="width=device-width, initial-scale=1">
<title>${escaped(title)}</title>
<style>
body { margin: 0; background: #f6f1e5; color: #1c2b30; font: 16px/1.5 system-ui, sans-serif; }
main { max-width: 40rem; margin: 0 auto; padding: 3rem 1.5rem; }
h1 { font: 500 1.7rem Georgia, serif; margin: 0 0 1rem; }
h2 { font: 500 1.2rem Georgia, serif; margin: 2rem 0 .5rem; }
button { font: inherit; padding: .6rem 1.1rem; border-radius: .4rem; border: 1px solid #8b8168; background: #fffdf7; color: inherit; cursor: pointer; }
button.first { background: #a35a00; border-color: #a35a00; color: #fffaf0; font-weight: 600; }
form { display: inline-block; margin: 0 .5rem .5rem 0; }
.sum { font-size: 2.2rem; margin: .5rem 0 1.5rem; font-variant-numeric: tabular-nums; }
.note { color: #5d675f; font-size: .9rem; border-top: 1px solid #d5cab2; margin-top: 2.5rem; padding-top: 1rem; }
video { width: 100%; background: #000; }
</style>
</head>
<body><main>
${body}
<p class="note">A made-up service that ships with Humming Tide, to try things with. No money moves, nothing leaves this machine.</p>
</main></body>
</html>
`;

/** A form of one button. */
export const buttonForm = (action: string, name: string, value: string, text: string, isFirst = false): string =>
  `<form method="post" action="${escaped(action)}"><button${isFirst ? ' class="first"' : ""} name="${escaped(name)}" value="${escaped(value)}">${escaped(text)}</button></form>`;

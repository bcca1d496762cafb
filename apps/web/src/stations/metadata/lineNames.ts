/** Lines of the head as people call them. */
const TITLES: Readonly<Record<string, string>> = {
  title: 'Title', language: 'Language', 'meta:description': 'Description', 'meta:robots': 'What search engines may do', 'meta:author': 'Author', 'meta:generator': 'Generator line', 'meta:theme-color': 'Colour for browsers',
  'meta:og:title': 'Share title', 'meta:og:description': 'Share text', 'meta:og:image': 'Share picture', 'meta:og:image:alt': 'Share picture in words', 'meta:viewport': 'Viewport', 'link:canonical': 'Canonical address', 'code:head': 'Code in the head', 'code:end': 'Code at the end of the page', data: 'Data of its own',
};

export function lineTitle(name: string): string {
  return TITLES[name] ?? name.replace(/^(meta|link):/, '');
}

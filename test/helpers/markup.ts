/** What is read aloud or seen of some markup, without the tags. */
export const wordsOf = (html: string): string =>
  html
    .replace(/<!--.*?-->/g, '')
    .replace(/<[^>]+>/g, ' ')
    .replace(/\s+/g, ' ')
    .replaceAll('&#x27;', '’')
    .trim();

/** Letters that have no mark to take off, as they are written without one. */
const plain: Record<string, string> = {
  ø: 'o',
  æ: 'ae',
  œ: 'oe',
  ß: 'ss',
  ł: 'l',
  đ: 'd',
  ð: 'd',
  þ: 'th',
  ı: 'i'
};

/** As names are compared: small letters without accents. `foldedName('Ångström-Łuk')` is "angstrom-luk". */
export const foldedName = (text: string): string =>
  text
    .toLowerCase()
    .normalize('NFD')
    .replace(/\p{M}/gu, '')
    .replace(/[øæœßłđðþı]/g, (letter) => plain[letter]);

/** The words of a name or of what was typed, folded. A hyphen and an apostrophe part words as a space does. */
export const nameWords = (text: string): string[] =>
  foldedName(text)
    .split(/[^\p{L}\p{N}]+/u)
    .filter(Boolean);

/** First names that people use for one another. Each line is one group; a name may stand in several. */
const groups = `
alexander alex alec sandy xander sasha
alexandra alex sandra sasha
andrew andy drew
anna ann anne annie anya
anthony tony
barbara barb barbie
benjamin ben benny
catherine katherine kathryn kate katie kathy cathy cat
charles charlie chuck
christian christopher chris kit
christina christine chris tina
daniel dan danny
deborah deb debbie
dorothy dot dora
edward ed eddie ted ned
eleanor ellen nell nora ella
elizabeth elisabeth liz lizzie beth bess betty eliza elsie lisa
florence flo flora
francis frank
frances fran franny
frederick fred freddie
gabriel gabe
gregory greg
harold harry hal
henry harry hank
isabel isabella izzy bella
jacob jake
james jim jimmy jamie
jennifer jen jenny
jessica jess jessie
john johnny jack jon
jonathan jon jonny
joseph joe joey
joshua josh
kenneth ken kenny
lawrence larry laurie
leonard leo len lenny
margaret maggie meg peggy greta rita
maria mary marie molly
matthew matthias matthis matt
michael mike mick mikey
nathaniel nathan nate
nicholas nick nicky
patricia pat patty tricia trish
patrick pat paddy
peter pete
philip phil pip
rebecca becky becca
richard rick dick richie
robert rob bob bobby bert
ronald ron
samuel samantha sam sammy
sarah sara sally
stephen steven steve
susan susanna sue susie
theodore ted theo
theresa teresa tess terry
thomas tom tommy
timothy tim
tobias tobin toby
victoria vicky tori
vincent vince
walter walt wally
william will bill billy liam wim
zachary zach zack
`
  .trim()
  .split('\n')
  .map((line) => line.split(' '));

const forms = new Map<string, Set<string>>();
for (const group of groups)
  for (const name of group) forms.set(name, new Set([...(forms.get(name) ?? []), ...group]));

/** Other first names that may stand for a folded one: `otherForms('liz')` holds "elizabeth" and "beth". */
export const otherForms = (name: string): string[] =>
  [...(forms.get(name) ?? [])].filter((each) => each !== name);

/** Whether two folded first names may be the same person's: equal, a usual short form, or one the beginning of the other. */
export function sameFirstName(a: string, b: string): boolean {
  if (a === b || otherForms(a).includes(b)) return true;
  const [short, long] = a.length < b.length ? [a, b] : [b, a];
  return short.length >= 3 && long.startsWith(short);
}

/**
 * How many letters have to be put in, taken out, changed or swapped with their neighbour (Damerau, 1964; the restricted
 * form) to make one word the other; counting stops above `most`.
 */
export function lettersApart(a: string, b: string, most = 3): number {
  if (Math.abs(a.length - b.length) > most) return most + 1;
  let before: number[] = [];
  let last = Array.from({ length: b.length + 1 }, (_, j) => j);
  for (let i = 1; i <= a.length; i++) {
    const row = [i];
    for (let j = 1; j <= b.length; j++) {
      const change = a[i - 1] === b[j - 1] ? 0 : 1;
      row[j] = Math.min(last[j] + 1, row[j - 1] + 1, last[j - 1] + change);
      if (i > 1 && j > 1 && a[i - 1] === b[j - 2] && a[i - 2] === b[j - 1])
        row[j] = Math.min(row[j], before[j - 2] + 1);
    }
    if (Math.min(...row) > most) return most + 1;
    [before, last] = [last, row];
  }
  return last[b.length];
}

/** The first letters of a name's words, as papers show who it is about: "N. S."; an animal keeps its one name. */
export function initialsOf({ kind, name }: { kind: 'person' | 'animal'; name: string }): string {
  if (kind === 'animal') return name;
  return name
    .split(/[\s-]+/)
    .filter(Boolean)
    .map((word) => `${[...word][0].toUpperCase()}.`)
    .join(' ');
}

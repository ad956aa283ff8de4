declare module "snowball-stemmers" {
  const snowball: { newStemmer(algorithm: string): { stem(word: string): string } };
  export default snowball;
}

declare module "stopword" {
  export const eng: string[],
    deu: string[],
    fra: string[],
    spa: string[],
    ita: string[],
    nld: string[],
    por: string[],
    dan: string[],
    swe: string[],
    nob: string[],
    fin: string[];
}

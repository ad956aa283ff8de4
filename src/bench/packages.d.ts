declare module "string-pixel-width" {
  export default function pixelWidth(text: string, options: { size: number }): number;
}

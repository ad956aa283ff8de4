import NextLink from "next/link";
import { type ComponentProps } from "react";
import { useSitePath } from "./site-path";

/** A link to a path within the site. */
export default function Link({ href, ...rest }: Omit<ComponentProps<typeof NextLink>, "href"> & { href: string }) {
  return <NextLink href={useSitePath()(href)} {...rest} />;
}

/** A link to what is taken out of the site, as the browser fetches files. */
export function FileLink({ href, ...rest }: Omit<ComponentProps<"a">, "href"> & { href: string }) {
  return <a href={useSitePath()(href)} {...rest} />;
}

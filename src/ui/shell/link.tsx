import NextLink from "next/link";
import { useRouter as useNextRouter } from "next/navigation";
import { type ComponentProps } from "react";
import { useSitePath } from "./site-path";

/**
 * A link to a path within the site. What it leads to is fetched when somebody points at it, and not as soon as it is in view: a screen with
 * thirty links would have the server and the browser work on thirty screens that nobody asked for.
 */
export default function Link({ href, ...rest }: Omit<ComponentProps<typeof NextLink>, "href"> & { href: string }) {
  const path = useSitePath()(href);
  const { prefetch } = useNextRouter();
  const fetchAhead = () => prefetch(path);
  return (
    <NextLink
      href={path}
      prefetch={false}
      onPointerEnter={fetchAhead}
      onPointerDown={fetchAhead}
      onFocus={fetchAhead}
      {...rest}
    />
  );
}

/** A link to what is taken out of the site, as the browser fetches files. */
export function FileLink({ href, ...rest }: Omit<ComponentProps<"a">, "href"> & { href: string }) {
  return <a href={useSitePath()(href)} {...rest} />;
}

/** What to do before anything was asked. */
export function FirstSteps() {
  return (
    <ol className="max-w-xl list-decimal space-y-2 pl-5">
      <li>
        Begin with one of the descriptions below the text, or with a file of your own: where the site’s interface is,
        which lists it has, where each field stands in a record.
      </li>
      <li>Type in the secret that the site gave you.</li>
      <li>
        <b>Try the first page</b>: the first records appear here, each beside what was understood of it. Point at a
        value to say that it is the title, the address and so on.
      </li>
      <li>
        <b>Try to write</b>: one page is written as it is and read again, so nothing changes on the site.
      </li>
      <li>
        <b>Save connection</b>, then import the pages. From then on applying a review changes the live site, and a run
        says what the site confirmed.
      </li>
    </ol>
  );
}

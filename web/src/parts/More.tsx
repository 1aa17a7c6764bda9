/** Says that a list is cut. */
export const More = ({
  more,
  look = "Find the others by a few words.",
}: {
  more: boolean | undefined;
  look?: string;
}) =>
  more ? (
    <p className="px-5 py-3 text-quiet" role="status">
      There are more than are listed here. {look}
    </p>
  ) : null;

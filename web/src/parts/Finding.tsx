/** Something a calculator noticed beside its answer. */
export function Finding({ says }: { says: string }) {
  return (
    <div className="border border-undecided border-l-6 p-2.5 text-note">
      <b className="text-undecided">Finding:</b> {says}.
    </div>
  );
}

/** Something a calculator noticed beside its answer. */
export function Finding({ says }: { says: string }) {
  return (
    <div className="border-[1.2px] border-undecided border-l-[6px] p-2.5 text-[15.5px]">
      <b className="text-undecided">Finding:</b> {says}.
    </div>
  );
}

/** Over the page while a file is held over it. */
export function DropHint({ text }: { readonly text: string }) {
  return (
    <div className="pointer-events-none fixed inset-4 z-40 flex items-center justify-center border-2 border-dashed border-mackerel bg-sheet/80">
      <p className="text-lg font-semibold text-mackerel">{text}</p>
    </div>
  )
}

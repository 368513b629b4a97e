/** What stands where a part is still on its way to the browser. */
export function Coming() {
  return (
    <p data-coming className="text-muted">
      One moment …
    </p>
  );
}

/** What stands in place of the page where there is nobody to ask. */
export function Closed({ why }: { readonly why: string }) {
  return (
    <>
      <header className="bar">
        <span className="bar__name">Mappa</span>
      </header>
      <main className="closed">
        <h1>Not connected</h1>
        <p>{why}</p>
        <p>
          Run <code>mappa view</code> again, and open the link that it prints. Each link works once; a window that is
          open already can make another one.
        </p>
      </main>
    </>
  )
}

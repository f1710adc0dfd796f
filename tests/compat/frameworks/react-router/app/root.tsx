import type { ReactNode } from 'react'
import { Outlet, Scripts } from 'react-router'

export function Layout({ children }: { children: ReactNode }) {
  return (
    <html lang="en">
      <body>
        {children}
        <Scripts />
      </body>
    </html>
  )
}

export default function Root() {
  return <Outlet />
}

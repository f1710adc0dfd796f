'use client'

export function Desk({ notice }: { notice: string }) {
  return (
    <>
      <p id="map">{process.env.VISITOR_MAP}</p>
      <p id="notice">{notice}</p>
    </>
  )
}

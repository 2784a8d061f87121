/** The sign of Yucca: a rosette of sword leaves. */
export function YuccaMark({ size = 22 }: { size?: number }) {
  return (
    <svg width={size} height={size} viewBox="0 0 32 32" aria-hidden="true" className="text-agave">
      <g fill="none" stroke="currentColor" strokeWidth="2.6" strokeLinecap="round">
        <path d="M16 28V5M16 28 7 9.500M16 28 25 9.500M16 28 3 18M16 28l13-10" />
      </g>
    </svg>
  );
}

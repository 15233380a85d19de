/** Letters that stay whole at the end: numbers and endings tell files apart. */
const END = 10;

/** A name of at most so many letters, for where only letters can stand. */
export function cutInMiddle(text: string, most: number): string {
  const letters = [...text];
  if (letters.length <= most) return text;
  return `${letters.slice(0, most - END - 1).join('')}…${letters.slice(-END).join('')}`;
}

/** A name in one line, cut in its middle where there is not enough room; whole in its tip. */
export function MiddleCut({
  text,
  title = text,
  className = '',
}: {
  text: string;
  title?: string | undefined;
  className?: string;
}) {
  const letters = [...text];
  if (letters.length <= END * 2) {
    return (
      <span className={`block min-w-0 truncate ${className}`} title={title}>
        {text}
      </span>
    );
  }
  const at = letters.length - END;
  return (
    <span className={`flex min-w-0 ${className}`} title={title}>
      <span className="sr-only">{text}</span>
      <span aria-hidden className="overflow-hidden text-ellipsis whitespace-pre">
        {letters.slice(0, at).join('')}
      </span>
      <span aria-hidden className="shrink-0 whitespace-pre">
        {letters.slice(at).join('')}
      </span>
    </span>
  );
}

import { Link, type LinkProps } from 'react-router'

/** A link in running text, in a list or above a heading. */
export function TextLink({ className = '', ...rest }: LinkProps) {
  return <Link className={`text-gust hover:underline ${className}`} {...rest} />
}

/** A file’s name as the course keeps it. instead: where nothing of the name can be kept. */
export function keptName(name: string, instead: string): string {
  const at = name.lastIndexOf('.')
  const [stem, ending] = at > 0 ? [name.slice(0, at), name.slice(at)] : [name, '']
  const plain = stem
    .normalize('NFKD')
    .toLowerCase()
    .replaceAll(/[^a-z0-9]+/g, '-')
    .replaceAll(/^-+|-+$/g, '')
  return `${plain.slice(0, 50) || instead}${ending.toLowerCase().replaceAll(/[^.a-z0-9]/g, '')}`
}

/** A file as a form sends it: the client would write it down as JSON, so it goes out as it is. */
export const sentFile = (file: Blob, name: string) => ({
  body: { file: '' },
  bodySerializer: () => {
    const form = new FormData()
    form.append('file', file, name)
    return form
  },
})

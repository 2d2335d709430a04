export const NOT_MARKED = 'This part is kept and shown beside a good answer; no rule can mark it.'

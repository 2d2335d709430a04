import type { TopicLine } from '../../api/client'

/** Whether a topic's target is met, and not doubtful by now. */
export const isMet = (line: TopicLine) => line.state === 'met' || line.state === 'secure'

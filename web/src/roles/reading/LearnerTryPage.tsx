import { useParams } from 'react-router'
import { TryView } from '../record/TryView'
import { VoidTry } from '../tutor/learner/VoidTry'
import { Back } from './Back'

/** One try of a learner, read only. */
export default function LearnerTryPage({ home }: { home: string }) {
  const { learner, id } = useParams()
  return (
    <TryView
      whose={Number(learner)}
      id={Number(id)}
      below={
        home === '/tutor'
          ? (shown) => <VoidTry learner={Number(learner)} shown={shown} />
          : undefined
      }
    >
      <Back id={Number(learner)} home={home} />
    </TryView>
  )
}

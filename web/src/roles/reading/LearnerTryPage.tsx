import { useParams } from 'react-router'
import { TryView } from '../record/TryView'
import { Back } from './Back'

/** One try of a learner, read only. */
export default function LearnerTryPage({ home }: { home: string }) {
  const { learner, id } = useParams()
  return (
    <TryView whose={Number(learner)} id={Number(id)}>
      <Back id={Number(learner)} home={home} />
    </TryView>
  )
}

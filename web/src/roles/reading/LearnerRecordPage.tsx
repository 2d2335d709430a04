import { useParams } from 'react-router'
import { RecordView } from '../record/RecordView'
import { Back } from './Back'

/** A learner's record, read only. */
export default function LearnerRecordPage({ home }: { home: string }) {
  const id = Number(useParams().learner)
  return (
    <RecordView whose={id} tryAt={(one) => `${home}/learners/${id}/tries/${one}`}>
      <Back id={id} home={home} />
    </RecordView>
  )
}

import { Link, useParams } from 'react-router'
import { useCourse, useTo } from '../../account/course'
import { TryView } from '../record/TryView'

/** One of the learner's own tries. */
export default function TryPage() {
  const to = useTo()
  return (
    <TryView whose={useCourse()} id={Number(useParams().id)}>
      <p>
        <Link to={to('/record')} className="text-gust hover:underline">
          Record
        </Link>
      </p>
    </TryView>
  )
}

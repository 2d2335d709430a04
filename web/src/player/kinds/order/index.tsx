import { lazy } from 'react'
import { PiecesReview } from '../shared/reviews'
import type { KindView } from '../view'
import { Printed } from './Printed'

const load = () => import('./Answer')

export const order: KindView<'order'> = {
  Answer: lazy(load),
  Review: ({ state }) => <PiecesReview state={state} />,
  Printed,
  load,
}

/** Where a pail may be kept, beside in the still air of the place. */
export const standings = {
  shade: 'in the shade',
  wind: 'in the wind',
  concrete: 'on the slab',
  water: 'in water of the place',
  ice: 'in ice water',
  warm: 'in warm water',
}

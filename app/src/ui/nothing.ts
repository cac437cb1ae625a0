/** Parts of list rows of the component library that are not used here: nothing stands in their place. */
const Nothing = () => null;
export const ListItemSwipeable = Nothing;
export const ListItemButtonGroup = Nothing;
export const ListItemInput = Nothing;

package say

// Cut is a list that was asked for with one more than is shown, cut to what is,
// and whether there was more.
func Cut[T any](list []T, most int) (shown []T, more bool) {
	if len(list) > most {
		return list[:most], true
	}
	return list, false
}

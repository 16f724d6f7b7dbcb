package diagram

// way is one way of laying out the inside of a box.
type way struct {
	left     int  // so many lanes stand left of the devices, the others right of them
	mirrored bool // the screws of each device stand in reverse
	reversed bool // the devices stand in reverse
	order    int  // of the lanes
}

// ways lists the layouts of a box that are worth trying: lanes left or right or half of them on either side, screws and devices
// in order or in reverse, lanes in three orders.
func ways(lanes, devices int) []way {
	lefts, orders := []int{lanes, 0}, 3
	switch {
	case lanes == 0:
		lefts, orders = []int{0}, 1
	case lanes == 1:
		orders = 1
	default:
		lefts = append(lefts, lanes/2)
	}
	var out []way
	for order := range orders {
		for _, reversed := range []bool{false, true}[:min(2, max(1, devices))] {
			for _, mirrored := range []bool{false, true} {
				for _, left := range lefts {
					out = append(out, way{left, mirrored, reversed, order})
				}
			}
		}
	}
	return out
}

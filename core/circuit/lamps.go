package circuit

// LampWatts is what all lamps on record draw together at full level, in watts: the watts of each times how many it stands for;
// lamps of which nobody noted the watts count for nothing.
func (c *Circuit) LampWatts() float64 {
	sum := 0.0
	for _, d := range c.Devices {
		if d.Type != TypeLamp || d.Watts == nil {
			continue
		}
		count := 1
		if d.Count != nil {
			count = *d.Count
		}
		sum += *d.Watts * float64(count)
	}
	return sum
}

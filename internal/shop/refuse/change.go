package refuse

// Within puts the path of a part before those of its faults.
func Within(path string, err error) error {
	bad, ok := err.(*Invalid)
	if !ok {
		return err
	}
	for i := range bad.Faults {
		bad.Faults[i].Path = path + bad.Faults[i].Path
	}
	return bad
}

package batch

// Through puts labels into the order in which they lie on the web, page by page, where each place of all pages is
// filled before the next (see FillThrough): of n labels on pages of so many, the first places take as many as there are
// pages, the last ones one less where they do not come out even.
func Through(labels []int, perPage int) []int {
	n := len(labels)
	if perPage < 2 || n <= perPage {
		return labels
	}
	pages := (n + perPage - 1) / perPage
	full := n - (pages-1)*perPage // places that have a label on every page
	placed := make([]int, n)
	for k, label := range labels {
		if k < full*pages {
			placed[k%pages*perPage+k/pages] = label
		} else {
			rest := k - full*pages
			placed[rest%(pages-1)*perPage+full+rest/(pages-1)] = label
		}
	}
	return placed
}

"""Drawing: what is shown of a piece laid out, in mm; how it is painted is the page's."""

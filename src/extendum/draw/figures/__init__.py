"""Figures drawn as bodies: looked at, painted in layers, and written as data, SVG or plain shapes."""

"""Drawings as text (SVG), computed from a timeline; pure, built on the core."""

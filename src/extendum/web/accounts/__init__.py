"""Accounts, sign-in and settings. Imports classes."""

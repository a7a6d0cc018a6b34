"""The model behind a verdict: likelihoods, the approximation of its posterior, and what is read."""

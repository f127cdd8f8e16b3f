"""From what a machine needs to the best drives that listed parts allow."""

"""The way in from other devices of the home network: certificates, addresses, a second server."""

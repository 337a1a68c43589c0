"""The stage of jobs: walking and carrying."""

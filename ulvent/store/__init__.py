"""Where pieces are kept: PostgreSQL through SQLAlchemy."""

"""What the processes of `worker` are forked from: the libraries, and the compiled loops, loaded once for all of them.

No OpenCV may have run here: its threads do not survive a fork.
"""

from paleta import impression, light, order
from server.derived import jobs, photo_jobs, restamp_jobs

impression.warm_up()
light.warm_up()
order.warm_up()

__all__ = ["jobs", "photo_jobs", "restamp_jobs"]

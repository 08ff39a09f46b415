"""The shots as contact prints (``reel_list``), and the chart of the reel (``reel_chart``)."""

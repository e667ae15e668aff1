"""What a workspace keeps to make its clips look alike: styles of captions, looks, house styles."""

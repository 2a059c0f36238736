package piece

-- Of what a colour is required: the mean of the piece, as all of before are, or its body, without sheen.
alter table requirement add column of_what text not null default 'mean';

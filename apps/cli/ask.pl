# Asks the standby (src/standby) what a command asks, without starting Node for it. Whatever is not possible here, Node does.
use strict;
use warnings;
use Socket;

my ($dist, @words) = @ARGV;
my ($command, $file) = @words;
my $given;

# Node in this process's place, with what was read already.
sub by_node {
  if (defined $given && $file eq '-' && open(my $again, '+>', undef)) {
    binmode $again;
    print $again $given;
    seek $again, 0, 0;
    open STDIN, '<&', $again;
  }
  exec 'node', "$dist/start.cjs", @words or die "node cannot be started: $!\n";
}

by_node() if ($ENV{FOX_LAMP_STANDBY} // '') eq 'off' || @words != 2 || $command !~ /^(?:measure|diagnose|triage|explain)$/;

# The same place as in src/standby/place.ts: a folder nobody else may enter, a name of this build alone.
my ($tmp) = (grep({ defined && length } @ENV{qw(TMPDIR TMP TEMP)}), '/tmp');
my $folder = "$tmp/fox-lamp-$<";
my (undef, undef, $mode, undef, $uid) = lstat $folder;
by_node() if !defined $uid || !-d _ || $uid != $< || $mode & 077;
my ($dev, $ino, $size, $mtime) = (stat "$dist/fox-lamp.cjs")[0, 1, 7, 9];
my $place = "$folder/$dev-$ino-$mtime-$size";
by_node() if length $place > 107;
my $standby;
socket($standby, PF_UNIX, SOCK_STREAM, 0) && connect($standby, pack_sockaddr_un($place)) or by_node();

my $from;
if ($file eq '-') { $from = \*STDIN }
else { open $from, '<', $file or by_node() }
binmode $from;
$given = do { local $/ = undef; readline $from };
by_node() if !defined $given;

local $SIG{PIPE} = 'IGNORE';
binmode $standby;
my $request = join(' ', map { unpack 'H*', $_ } @words, $given) . "\n";
while (length $request) {
  my $sent = syswrite $standby, $request;
  by_node() if !defined $sent;
  substr($request, 0, $sent, '');
}
my $answer = do { local $/ = undef; readline $standby } // '';
my ($head, $code, $out, $err) = $answer =~ /^((\d) (\d+) (\d+)\n)/ or by_node();
by_node() if length $answer != length($head) + $out + $err;
print STDERR substr($answer, length($head) + $out);
binmode STDOUT;
print(STDOUT substr $answer, length $head, $out) && close(STDOUT) or exit($!{EPIPE} ? 0 : 1);
exit $code;

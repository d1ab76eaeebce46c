import 'package:flutter/foundation.dart';
import 'package:flutter/material.dart';
import 'package:brinelog_flutter/brinelog_flutter.dart';
import 'package:gullpost_flutter/gullpost_flutter.dart';
import 'package:quaymap_flutter/quaymap_flutter.dart';
import 'package:tidewire_flutter/tidewire_flutter.dart';

void main() {
  WidgetsFlutterBinding.ensureInitialized();
  Brinelog.start();
  if (kDebugMode) Brinelog.setVerbose(true);
  Gullpost.register();
  Tidewire.connect();
  runApp(const Crewboard());
}

class Crewboard extends StatelessWidget {
  const Crewboard({super.key});

  @override
  Widget build(BuildContext context) => const MaterialApp(home: QuaymapView());
}

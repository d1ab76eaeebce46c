import 'package:flutter/material.dart';
import 'package:brinelog_flutter/brinelog_flutter.dart';
import 'package:quaymap_flutter/quaymap_flutter.dart';

void main() {
  WidgetsFlutterBinding.ensureInitialized();
  Brinelog.start();
  Brinelog.setVerbose(true);
  runApp(const Crewboard());
}

class Crewboard extends StatelessWidget {
  const Crewboard({super.key});

  @override
  Widget build(BuildContext context) => const MaterialApp(home: QuaymapView());
}
